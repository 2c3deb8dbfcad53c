import type { Content, TableCell } from 'pdfmake/interfaces';
import type { Coordinate } from '../../core/report/position.ts';
import type { Paper } from '../../core/records/handOver.ts';
import { innerWidth, QUIET, rule, type LAYOUTS, type PaperSheet } from './papers';

const MARGIN = 34;

/** One page that rebuilds the position: the bike to scale with its dimensions, then every coordinate, how it is measured, how near. */
// eslint-disable-next-line max-lines-per-function -- one sheet from top to bottom
export function transferPaper(of: {
  paper: Paper;
  riderName: string;
  bikeName: string;
  day: string;
  studio: { name: string; contact: string };
  drawing: string | null;
  coordinates: readonly Coordinate[];
  show: (c: Coordinate) => string;
}): PaperSheet {
  const width = innerWidth(of.paper, MARGIN);
  const known = of.coordinates.filter((c) => c.value !== null);
  const open = of.coordinates.filter((c) => c.value === null).map((c) => c.name.toLowerCase());
  const cell = (text: string, more: object = {}): TableCell => ({ text, style: 'cell', ...more });
  const body: TableCell[][] = [
    ['', 'Value', '±', 'How it is measured'].map((text): TableCell => ({ text, style: 'head' })),
  ];
  let group = '';
  for (const c of known) {
    if (c.group !== group) {
      group = c.group;
      body.push([{ text: group, style: 'cell', bold: true, colSpan: 4, margin: [0, 3, 0, 0] }, {}, {}, {}]);
    }
    body.push([
      cell(c.name),
      cell(of.show(c), { bold: true, alignment: 'right' }),
      cell(c.tolerance === null ? '' : `${c.tolerance}`, { color: QUIET, alignment: 'right' }),
      cell(`${c.how}${c.from === 'computed' ? ' Worked out.' : ''}`, { color: QUIET, fontSize: 7 }),
    ]);
  }
  const content: Content[] = [
    {
      columns: [
        {
          stack: [
            { text: 'Transfer sheet', style: 'note' },
            { text: of.riderName, fontSize: 17, bold: true, lineHeight: 1.1 },
          ],
        },
        {
          text: [of.bikeName, of.day].filter(Boolean).join('\n'),
          alignment: 'right',
          fontSize: 9,
          lineHeight: 1.2,
        },
      ],
      margin: [0, -14, 0, 4],
    },
    rule(width, true),
    ...(of.drawing
      ? [
          {
            svg: of.drawing,
            width: of.paper === 'A4' ? 370 : 290,
            alignment: 'center' as const,
            margin: [0, 4, 0, 4] as [number, number, number, number],
          },
        ]
      : []),
    {
      table: { headerRows: 1, widths: [130, 52, 20, '*'], body },
      layout: 'coordinates' satisfies keyof typeof LAYOUTS,
    },
    {
      text: `${open.length ? `Not measured: ${open.join(', ')}. ` : ''}Lengths in the bike’s plane, bike level on its axles; ± is what the same measurement done twice may differ by.`,
      style: 'note',
      fontSize: 7,
      margin: [0, 4, 0, 0],
    },
  ];
  return {
    paper: of.paper,
    title: `Transfer sheet, ${of.riderName}`,
    head: `${of.riderName}, ${of.day}`,
    foot: [of.studio.name, of.studio.contact].filter(Boolean).join(', ') || 'Deep Angle',
    margin: MARGIN,
    content,
  };
}
