import type { Content, CustomTableLayout, TDocumentDefinitions } from 'pdfmake/interfaces';
import type { Paper } from '../../core/records/handOver.ts';

/** Ink on white paper: quiet, one accent for what matters, thin rules. */
const INK = '#1d282e';
export const QUIET = '#55605f';

const RULE = '#cfc7b5';

const POINTS: Record<Paper, { width: number; height: number }> = {
  A4: { width: 595.28, height: 841.89 },
  LETTER: { width: 612, height: 792 },
};
const MARGIN = 48;

/** Width between the margins, points. */
export const innerWidth = (paper: Paper, margin = MARGIN): number => POINTS[paper].width - 2 * margin;

export const rule = (width: number, heavy = false): Content => ({
  canvas: [
    {
      type: 'line',
      x1: 0,
      y1: 0,
      x2: width,
      y2: 0,
      lineWidth: heavy ? 1 : 0.5,
      lineColor: heavy ? INK : RULE,
    },
  ],
});

/** What one paper has of its own: plain values, as a worker is given them. */
export interface PaperSheet {
  paper: Paper;
  title: string;
  /** Who it is about, and which day. */
  head: string;
  foot: string;
  margin?: number;
  content: Content[];
}

/** Rules of tables, by their names. */
export const LAYOUTS = {
  coordinates: {
    hLineWidth: (i, node) => (i === 1 ? 0.8 : i === 0 || i === node.table.body.length ? 0 : 0.3),
    vLineWidth: () => 0,
    hLineColor: () => INK,
    paddingTop: () => 1.1,
    paddingBottom: () => 0.6,
    paddingLeft: () => 2,
    paddingRight: () => 4,
  },
} satisfies Record<string, CustomTableLayout>;

/** With what all papers share: size, head and foot with the page's number, styles. */
export function definitionOf(of: PaperSheet): TDocumentDefinitions {
  const margin = of.margin ?? MARGIN;
  return {
    pageSize: of.paper,
    pageMargins: [margin, margin + 10, margin, margin],
    info: { title: of.title, creator: 'Deep Angle' },
    header: (page) =>
      page === 1 ? '' : { text: of.head, fontSize: 8, color: QUIET, margin: [margin, 24, margin, 0] },
    footer: (page, pages) => ({
      columns: [
        { text: of.foot, fontSize: 8, color: QUIET },
        { text: `${page} of ${pages}`, fontSize: 8, color: QUIET, alignment: 'right', width: 60 },
      ],
      margin: [margin, 14, margin, 0],
    }),
    defaultStyle: { font: 'Roboto', fontSize: 10.5, lineHeight: 1.25, color: INK },
    styles: {
      title: { fontSize: 22, bold: true, lineHeight: 1.1 },
      part: { fontSize: 14, bold: true, margin: [0, 14, 0, 4] },
      note: { fontSize: 8.5, color: QUIET, lineHeight: 1.2 },
      small: { fontSize: 9 },
      cell: { fontSize: 8, lineHeight: 1.1 },
      head: { fontSize: 8, bold: true, color: QUIET, lineHeight: 1.1 },
    },
    content: of.content,
  };
}

/** The fonts that ship have no arrows; what a fitter types may. */
const printable = (text: string): string =>
  text.replace(/\s*[→➔⟶]\s*/g, ' to ').replace(/[\u{1F000}-\u{1FAFF}]/gu, '');

/** Text with empty lines between paragraphs and “- ” before points, as blocks. */
export function blocksOf(text: string): Content[] {
  return printable(text)
    .split(/\n\s*\n/)
    .map((p) => p.trim())
    .filter(Boolean)
    .map((p): Content => {
      const lines = p.split('\n');
      if (lines.every((l) => l.trim().startsWith('- ')))
        return { ul: lines.map((l) => l.trim().slice(2)), margin: [0, 0, 0, 6] };
      return { text: p, margin: [0, 0, 0, 6] };
    });
}
