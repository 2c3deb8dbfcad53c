import Ajv from 'ajv/dist/2020.js';
import ICAL from 'ical.js';
import { describe, expect, it } from 'vitest';
import { CATALOGUE } from '../../app/demo/catalogue.ts';
import { DEMO_PARTS } from '../../app/demo/parts.ts';
import { DOSSIERS } from '../../scripts/demo/dossiers.ts';
import { writeCalendar } from '../formats/calendar.ts';
import {
  parsePlanLog,
  planLogJsonSchema,
  planLogOf,
  restoredFrom,
  writePlanLog,
} from '../formats/planLog.ts';
import { applyMoves } from '../plan/controls/controls.ts';
import { backupNudge, studioDesk } from '../visit/desk.ts';
import { applyEdit } from '../visit/edits.ts';
import { REPORT_PARTS } from '../records/handOver.ts';
import { summaryOfVisit } from '../visit/summaries.ts';
import type { FitSession } from '../records/types.ts';
import { complaintsThenNow, historyOf } from './history.ts';
import { jobsFor, partsBetween, totalOf } from './orders.ts';
import { changeInPlainWords, findingInPlainWords } from './plainWords.ts';
import { reportTexts, workOrderOf } from './report.ts';

const one = CATALOGUE.sessions.find((s) => s.id === 'maren-1')!;
const two = CATALOGUE.sessions.find((s) => s.id === 'maren-2')!;
const bike = DOSSIERS.maren.asFound;
const { parts } = DEMO_PARTS;

describe('parts and work', () => {
  it('lists what was taken from the parts bin, what has to be ordered, and what it costs', () => {
    const lines = partsBetween(
      bike,
      applyMoves(bike, { stemLength: -50, stemFlip: 1, spacers: 25, barWidth: -40 }),
      parts,
    );
    expect(lines.map((l) => [l.what, l.count, l.from])).toEqual([
      ['Stem 70 mm, −6°: Fennel 70', 1, 'bin'],
      ['Spacer 20 mm: Spacer 20', 1, 'bin'],
      ['Spacer 5 mm: Spacer 5', 1, 'bin'],
      ['Bar 380 mm', 1, 'order'],
    ]);
    expect(totalOf(lines)).toEqual({ price: 38 + 3 + 3, unpriced: 1 });
    expect(partsBetween(bike, bike, parts)).toEqual([]);
  });
  it('spacers come out of the parts bin as long as there are some, the rest is ordered', () => {
    const few = parts.map((p) => (p.kind === 'spacer' ? { ...p, count: p.stackMm === 10 ? 1 : 0 } : p));
    expect(partsBetween(bike, applyMoves(bike, { spacers: 25 }), few).map((l) => l.what)).toEqual([
      'Spacer 10 mm: Spacer 10',
      'Spacers, 15 mm',
    ]);
    expect(partsBetween(applyMoves(bike, { spacers: 25 }), bike, parts)).toEqual([]);
  });
  it('names the jobs in working order, each with its bolts', () => {
    const jobs = jobsFor(['stem.lengthMm', 'saddle.heightMm', 'feet.left.cleatBehindMm', 'bar.widthMm']);
    expect(jobs.map((j) => j.key)).toEqual(['cleats', 'post', 'stem', 'bar']);
    expect(jobs[3].bolts).toEqual(['face plate']);
    expect(jobsFor(['name'])).toEqual([]);
    expect(workOrderOf(one.asFound, one.final!).map((j) => j.key)).toEqual(['saddle', 'post', 'stem']);
  });
});

describe('the rider’s report', () => {
  const report = (s: FitSession, more: Partial<Parameters<typeof reportTexts>[0]> = {}) =>
    reportTexts({
      riderName: 'Maren Toft',
      intake: s.intake,
      before: s.earlierPlans[0]?.findings ?? s.plan!.findings,
      after: s.plan!.findings,
      asFound: s.asFound,
      leaves: s.final!,
      changes: s.changes,
      followUps: s.followUps,
      advice: ['A wide last, rather than a longer shoe.'],
      redFlags: [],
      halfSteps: false,
      studio: { name: 'Kiln Yard', fitter: 'Orla', contact: 'the gate' },
      day: (iso) => `on ${iso}`,
      length: (mm) => `${mm} mm`,
      ...more,
    });
  it('says what was looked for, found, changed and why, and when to meet, in plain words', () => {
    const t = report(one);
    expect(Object.keys(t)).toEqual(REPORT_PARTS.map((p) => p.key));
    expect(t.why).toContain('front of knee on both sides (5 of 10, builds up)');
    expect(t.found).toMatch(
      /How far your knee is bent at the bottom of the stroke: 48° \(33 to 42° is usual\); it stays more bent/,
    );
    expect(t.found).toMatch(/48° before, 46° now: nearer, and not there yet/);
    expect(t.changed).toContain('- saddle 18 mm higher');
    expect(t.changed).not.toMatch(/bottom bracket|: yes|to \d/);
    expect(t.changed).toContain('so that your knee can straighten further with every turn');
    expect(t.changed).toContain('One thing we tried did not help');
    expect(t.home).toContain('A wide last');
    expect(t.dates).toBe('- on 2027-10-06: Yearly check');
    // The rider's words, not the trade's.
    expect(Object.values(t).join(' ')).not.toMatch(/flexion|°\/|κ|ρ|BDC|TDC/);
  });
  it('leads with a reason to refer, and makes no diagnosis', () => {
    const t = report(one, { redFlags: ['Pain at rest or at night'] });
    expect(
      t.stop.startsWith('Before you ride on, have this looked at by a doctor, as we told you: pain at rest'),
    ).toBe(true);
    expect(t.stop).toContain('we make no diagnosis');
  });
  it('has words for a visit on which nothing was moved and nothing filmed', () => {
    const t = report({ ...one, final: one.asFound, changes: [], followUps: [] }, { before: [], after: [] });
    expect(t.changed).toBe('Nothing was changed.');
    expect(t.found).toContain('nothing was filmed');
    expect(Object.values(t).join(' ')).not.toContain('measured you');
    expect(t.dates).toContain('Come back after a crash');
  });
  it('words a finding by its side of the band', () => {
    const f = {
      key: 'backAngleDeg',
      value: 51.4,
      uncertainty: 2,
      unit: '°' as const,
      band: { low: 42, high: 55 },
      verdict: 'in' as const,
    };
    expect(findingInPlainWords(f)).toBe('How steep your back is: 51° (42 to 55° is usual); that suits you.');
    expect(findingInPlainWords({ ...f, verdict: 'low', value: 30 })).toContain('lower than your back likes');
    expect(findingInPlainWords({ ...f, key: 'shoulderAboveMidBackMm' })).toBeNull();
    expect(changeInPlainWords({ ...f, value: 30, verdict: 'low' }, f)).toMatch(
      /30° before, 51° now: now where it belongs/,
    );
    expect(changeInPlainWords(f, f)).toMatch(/as it was/);
  });
});

describe('follow-ups', () => {
  const open = one.followUps.filter((f) => f.doneIso === null);
  it('go out as a calendar that a standard parser reads, days and words kept', () => {
    const awkward = {
      id: 'f9',
      due: '2028-02-29',
      why: 'Comma, semicolon; and a “quote”\\ — and a very long reason that has to be folded over more than one line of the file',
      doneIso: null,
    };
    const text = writeCalendar([...one.followUps, awkward], {
      riderName: 'Maren Toft',
      studioName: 'Kiln Yard',
      fitter: 'Orla',
      contact: 'gate; mornings',
    });
    expect(text.split('\r\n').every((l) => l.length <= 75)).toBe(true);
    const calendar = new ICAL.Component(ICAL.parse(text) as never);
    const events = calendar.getAllSubcomponents('vevent').map((e) => new ICAL.Event(e));
    expect(events).toHaveLength(open.length + 1);
    expect(events[0].startDate.toString()).toBe(open[0].due);
    expect(events[0].startDate.isDate).toBe(true);
    expect(events[1].startDate.toString()).toBe('2028-02-29');
    expect(events[1].endDate.toString()).toBe('2028-03-01');
    expect(events[1].summary).toBe(`${awkward.why}: Maren Toft`);
    expect(events[1].description).toBe('Kiln Yard\nOrla\ngate; mornings');
    expect(events[1].uid).toBe('f9@deep-angle');
    expect(events[1].component.getFirstSubcomponent('valarm')).not.toBeNull();
  });
  it('what hurt then and now is laid side by side by complaint', () => {
    expect(complaintsThenNow(one.intake.complaints, two.intake.complaints)).toEqual([
      { name: 'front of knee, both sides', then: 5, now: 0, words: 'gone' },
      { name: 'hands, both sides', then: 4, now: 1, words: 'better' },
    ]);
    const fresh = {
      ...one.intake.complaints[0],
      id: 'new',
      region: 'neck' as const,
      side: 'middle' as const,
      severity: 2,
    };
    const rows = complaintsThenNow(one.intake.complaints, [one.intake.complaints[0], fresh]);
    expect(rows.map((r) => r.words)).toEqual(['the same', 'not asked yet', 'new']);
  });
  it('the timeline tells each visit’s position and what it moved, in the order they came', () => {
    const entries = historyOf([two, one]);
    expect(entries.map((e) => e.sessionId)).toEqual(['maren-1', 'maren-2']);
    expect(entries[0].moved.find((m) => m.name === 'Height to bottom bracket')).toMatchObject({
      from: 646,
      to: 664,
    });
    expect(entries[1].moved.map((m) => m.name)).toEqual(['Bar width']);
    expect(entries[1].complaints).toContainEqual({ name: 'front of knee, both sides', severity: 0 });
  });
  it('the desk lists who is due within the week, the latest first to be late, and where visits stopped', () => {
    const index = { riders: CATALOGUE.riders, visits: CATALOGUE.sessions.map(summaryOfVisit) };
    const desk = studioDesk(index, '2026-11-25');
    expect(desk.due.map((d) => [d.rider.id, d.due])).toEqual([
      ['pilar', '2026-11-24'],
      ['idris', '2026-11-25'],
      ['juno', '2026-12-02'],
    ]);
    expect(desk.unfinished.map((u) => [u.rider.id, u.path])).toEqual([
      ['idris', 'trial'],
      ['pilar', 'trial'],
      ['juno', 'trial'],
    ]);
    const binned = {
      ...index,
      riders: index.riders.map((r) => ({ ...r, deletedIso: '2026-11-01T00:00:00.000Z' })),
    };
    expect(studioDesk(binned, '2026-11-25')).toEqual({ due: [], unfinished: [] });
    expect(studioDesk(index, '2026-01-01').due).toEqual([]);
  });
  it('a backup is asked for when there is none or it is old', () => {
    expect(backupNudge(null, '2026-11-25T00:00:00Z')).toContain('never saved');
    expect(backupNudge('2026-11-20T00:00:00Z', '2026-11-25T00:00:00Z')).toBeNull();
    expect(backupNudge('2026-11-01T00:00:00Z', '2026-11-25T00:00:00Z')).toBe(
      'The last backup is 24 days old.',
    );
  });
});

describe('plan and log as a file', () => {
  const ajv = new Ajv({ strict: false, validateFormats: false });
  const valid = ajv.compile(planLogJsonSchema());
  it('fits its published schema, and comes back as the same session', () => {
    for (const s of CATALOGUE.sessions) {
      const text = writePlanLog(s);
      expect(valid(JSON.parse(text)), JSON.stringify(valid.errors)).toBe(true);
      const read = parsePlanLog(text);
      if (!read.ok) throw new Error(read.message);
      expect(read.log).toEqual(planLogOf(s));
      const blank: FitSession = {
        ...s,
        plan: null,
        earlierPlans: [],
        changes: [],
        current: null,
        final: null,
        followUps: [],
      };
      const back = applyEdit(blank, { kind: 'restored', part: restoredFrom(read.log) });
      expect(back).toEqual({ ok: true, session: s });
    }
  });
  it('the schema refuses what the application refuses', () => {
    const log = planLogOf(one);
    const bad = { ...log, changes: [{ ...log.changes[0], word: 'wonderful' }] };
    expect(valid(bad)).toBe(false);
    expect(parsePlanLog(JSON.stringify(bad))).toMatchObject({ ok: false });
    for (const [text, words] of [
      ['nonsense', /no JSON/],
      ['{"format":"other"}', /holds no plan and log/],
      [JSON.stringify({ ...log, version: 9 }), /can’t be imported/],
    ] as const) {
      const read = parsePlanLog(text);
      expect(!read.ok && read.message).toMatch(words);
    }
  });
});
