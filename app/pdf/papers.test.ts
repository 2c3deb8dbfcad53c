import { expect, it } from 'vitest';
import type { ReportPartKey } from '../../core/records/handOver.ts';
import { definitionOf, type PaperSheet } from './papers';
import { reportPaper } from './reportPaper';
import { transferPaper } from './transferPaper';
import { workPaper } from './workPaper';

const about = { riderName: 'Ida Quill', bikeName: 'the blue one', day: '2 Dec 2026' };

const words: Record<ReportPartKey, string> = {
  found: 'Your knee stays bent.\n\n- more than most\n- on both sides',
  changed: 'The saddle went up.',
  why: '',
  expect: '',
  home: '',
  stop: '',
  dates: '',
};

const SHEETS: [string, PaperSheet][] = [
  [
    'the report',
    reportPaper({
      ...about,
      paper: 'A4',
      studio: { name: 'North Yard', fitter: 'Oda', contact: '' },
      texts: words,
      leftOut: [],
      pictures: [{ dataUrl: 'data:image/jpeg;base64,', caption: 'at the bottom' }],
      charts: [{ svg: '<svg></svg>', caption: 'the knee' }],
      bikes: [],
    }),
  ],
  [
    'the transfer sheet',
    transferPaper({
      ...about,
      paper: 'LETTER',
      studio: { name: 'North Yard', contact: '' },
      drawing: '<svg></svg>',
      coordinates: [],
      show: () => '',
    }),
  ],
  [
    'the work order',
    workPaper({
      ...about,
      paper: 'A4',
      studio: { name: '', currency: 'EUR' },
      parts: [],
      jobs: [{ key: 'saddle', what: 'Raise the saddle', bolts: ['Seat clamp'] }],
      ticked: ['saddle'],
      changes: ['Saddle up 6 mm'],
    }),
  ],
];

it.each(SHEETS)('%s is plain values, as a worker is given them', (_, sheet) => {
  expect(structuredClone(sheet)).toEqual(sheet);
});

it.each(SHEETS)('%s names the rider from its second page on, and counts its pages', (_, sheet) => {
  const { header, footer } = definitionOf(sheet);
  const [head, foot] = [header, footer] as ((page: number, pages: number) => unknown)[];
  expect(JSON.stringify(head(1, 3))).not.toContain('Ida Quill');
  expect(JSON.stringify(head(2, 3))).toContain('Ida Quill, 2 Dec 2026');
  expect(JSON.stringify(foot(2, 3))).toContain('2 of 3');
  expect(JSON.stringify(foot(2, 3))).toContain(sheet.title.startsWith('Work') ? 'Deep Angle' : 'North Yard');
});
