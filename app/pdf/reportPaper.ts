import type { Column, Content } from 'pdfmake/interfaces';
import { REPORT_PARTS, type HandOver, type Paper, type ReportPartKey } from '../../core/records/handOver.ts';
import { blocksOf, innerWidth, rule, type PaperSheet } from './papers';

/** A picture out of the rider's own film, as a data address, with its caption. */
export interface FilmPicture {
  dataUrl: string;
  caption: string;
}

/** A chart as SVG, with its caption. */
export interface ReportChart {
  svg: string;
  caption: string;
}

/** The rider's report: two to six pages of plain words, pictures from the film, charts before and after. */
export function reportPaper(of: {
  paper: Paper;
  riderName: string;
  day: string;
  studio: { name: string; fitter: string; contact: string };
  bikeName: string;
  texts: Record<ReportPartKey, string>;
  leftOut: HandOver['leftOut'];
  pictures: readonly FilmPicture[];
  charts: readonly ReportChart[];
  /** The bike before and after, side by side. */
  bikes: readonly ReportChart[];
}): PaperSheet {
  const width = innerWidth(of.paper);
  const half = (width - 14) / 2;
  const content: Content[] = [
    { text: of.studio.name || 'Bike fit', style: 'note' },
    { text: of.riderName, style: 'title', margin: [0, 2, 0, 0] },
    { text: [of.bikeName, of.day].filter(Boolean).join(', '), margin: [0, 2, 0, 8] },
    rule(width, true),
  ];
  for (const part of REPORT_PARTS) {
    const text = of.texts[part.key].trim();
    if (of.leftOut.includes(part.key) || !text) continue;
    const blocks = blocksOf(text);
    // A heading never stands alone at a page's foot.
    content.push({
      stack: [{ text: part.title, style: 'part' }, ...(blocks.length ? [blocks[0]] : [])],
      unbreakable: true,
    });
    content.push(...blocks.slice(1));
    const { pictures, bikes, charts } = of;
    if (part.key === 'found')
      content.push(
        ...twoByTwo(
          pictures.map((p) => ({ figure: { image: p.dataUrl, width: half }, caption: p.caption })),
          half,
        ),
      );
    if (part.key === 'changed')
      for (const drawings of [bikes, charts])
        content.push(
          ...twoByTwo(
            drawings.map((d) => ({ figure: { svg: d.svg, width: half }, caption: d.caption })),
            half,
          ),
        );
  }
  content.push(rule(width), {
    text: [of.studio.fitter, of.studio.name, of.studio.contact].filter(Boolean).join(' · ') || ' ',
    style: 'note',
    margin: [0, 6, 0, 0],
  });
  return {
    paper: of.paper,
    title: `Bike fit, ${of.riderName}`,
    head: `${of.riderName}, ${of.day}`,
    foot: of.studio.name || 'Deep Angle',
    content,
  };
}

/** Pictures or drawings two by two, each with its caption under it. */
function twoByTwo(shown: readonly { figure: Content; caption: string }[], half: number): Content[] {
  const rows: (typeof shown)[] = [];
  for (let k = 0; k < shown.length; k += 2) rows.push(shown.slice(k, k + 2));
  return rows.map((row): Content => ({
    columns: row.map(({ figure, caption }): Column => ({
      width: half,
      stack: [figure, { text: caption, style: 'note', margin: [0, 3, 0, 8] }],
    })),
    columnGap: 14,
    unbreakable: true,
    margin: [0, 4, 0, 0],
  }));
}
