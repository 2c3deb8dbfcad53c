import type { Content, TableCell } from 'pdfmake/interfaces';
import { RETORQUE, totalOf, type Job, type OrderLine } from '../../core/report/orders.ts';
import { moneyText, type Currency } from '../../core/units/money.ts';
import type { Paper } from '../../core/records/handOver.ts';
import { innerWidth, rule, type PaperSheet } from './papers';

/** A box to tick, drawn: fonts that ship have none. */
const box = (ticked: boolean): Content => ({
  canvas: [
    { type: 'rect', x: 0, y: 1, w: 9, h: 9, lineWidth: 0.8 },
    ...(ticked
      ? ([
          {
            type: 'polyline',
            lineWidth: 1.4,
            points: [
              { x: 1.5, y: 5.5 },
              { x: 4, y: 8.5 },
              { x: 8.5, y: 1.5 },
            ],
          },
        ] as const)
      : []),
  ] as never,
});

/** Parts with prices, and the mechanic's jobs with a box for each bolt's torque. */
// eslint-disable-next-line max-lines-per-function -- one sheet from top to bottom
export function workPaper(of: {
  paper: Paper;
  riderName: string;
  bikeName: string;
  day: string;
  studio: { name: string; currency: Currency };
  parts: readonly OrderLine[];
  jobs: readonly Job[];
  ticked: readonly string[];
  changes: readonly string[];
}): PaperSheet {
  const width = innerWidth(of.paper);
  const total = totalOf(of.parts);
  const rows: TableCell[][] = [
    ['Part', 'Count', 'From', 'Price'].map((text, i): TableCell => ({
      text,
      style: 'head',
      alignment: i % 2 ? 'right' : 'left',
    })),
    ...of.parts.map((p): TableCell[] => [
      p.what,
      { text: String(p.count), alignment: 'right' },
      p.from === 'bin' ? 'the parts bin' : 'to order',
      { text: p.price === null ? 'ask' : moneyText(p.price, of.studio.currency), alignment: 'right' },
    ]),
    [
      { text: total.unpriced ? `Total, ${total.unpriced} without a price` : 'Total', bold: true, colSpan: 3 },
      {},
      {},
      { text: moneyText(total.price, of.studio.currency), bold: true, alignment: 'right' },
    ],
  ];
  const content: Content[] = [
    { text: 'Parts and work order', style: 'note' },
    { text: of.riderName, style: 'title' },
    { text: [of.bikeName, of.day].filter(Boolean).join(', '), margin: [0, 2, 0, 8] },
    rule(width, true),
    { text: 'Parts', style: 'part' },
    of.parts.length
      ? { table: { headerRows: 1, widths: ['*', 40, 60, 60], body: rows }, layout: 'lightHorizontalLines' }
      : { text: 'None: everything is done with what is on the bike.' },
    { text: 'Work', style: 'part' },
    ...(of.changes.length ? [{ ul: [...of.changes], style: 'small', margin: [0, 0, 0, 8] } as Content] : []),
    ...of.jobs.map((j): Content => ({
      columns: [
        { width: 18, stack: [box(of.ticked.includes(j.key))] },
        {
          width: '*',
          stack: [
            { text: j.what, bold: true },
            ...j.bolts.map((b): Content => ({
              columns: [
                { width: 18, stack: [box(of.ticked.includes(j.key))] },
                { width: '*', text: `${b}: torque per maker, ________ Nm` },
              ],
              margin: [0, 2, 0, 0],
            })),
          ],
        },
      ],
      margin: [0, 2, 0, 8],
      unbreakable: true,
    })),
    { text: RETORQUE, bold: true, margin: [0, 6, 0, 0] },
    {
      text: 'Torque, paste and clamp zones by the maker’s own figures and local rules.',
      style: 'note',
      margin: [0, 4, 0, 16],
    },
    { text: 'Done by ______________________________    on ____________________' },
  ];
  return {
    paper: of.paper,
    title: `Work order, ${of.riderName}`,
    head: `${of.riderName}, ${of.day}`,
    foot: of.studio.name || 'Deep Angle',
    content,
  };
}
