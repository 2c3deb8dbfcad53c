import { describe, expect, it } from 'vitest';
import { CATALOGUE } from '../../app/demo/catalogue.ts';
import {
  byRider,
  findRiders,
  inOrder,
  rowsOf,
  summaryOfVisit,
  withRecords,
  type StudioIndex,
} from './summaries.ts';
import type { FitSession, Rider } from '../records/types.ts';

const { riders, sessions } = CATALOGUE;
const index: StudioIndex = { riders, visits: sessions.map(summaryOfVisit) };
const rows = rowsOf(byRider(index));
const idris = sessions.find((s) => s.riderId === 'idris')!;
const names = (list: { rider: Rider }[]): string[] => list.map((r) => r.rider.id);

describe('the index of the studio', () => {
  it('brought up to date record by record is the one made anew from all records', () => {
    const changed: FitSession = {
      ...idris,
      followUps: [{ id: 'f', due: '2027-01-11', why: '', doneIso: null }],
    };
    const added: FitSession = { ...idris, id: 'idris-2', startedIso: '2027-01-11T09:00:00.000Z' };
    const renamed: Rider = { ...riders[0], name: 'Maren T.' };
    const got = withRecords(
      index,
      new Map<string, Rider | null>([
        [renamed.id, renamed],
        ['juno', null],
      ]),
      new Map<string, FitSession | null>([
        [changed.id, changed],
        [added.id, added],
        ['juno-1', null],
        ['never-there', null],
      ]),
    );
    const anew: StudioIndex = {
      riders: [renamed, ...riders.slice(1).filter((r) => r.id !== 'juno')],
      visits: [...sessions.filter((s) => s.riderId !== 'juno' && s !== idris), changed, added].map(
        summaryOfVisit,
      ),
    };
    const sorted = (i: StudioIndex) => byRider(i).sort((a, b) => a.rider.id.localeCompare(b.rider.id));
    expect(sorted(got)).toEqual(sorted(anew));
  });
  it('leaves visits of a rider who is not there to wait for them', () => {
    expect(byRider({ riders: [], visits: index.visits })).toEqual([]);
  });
});

describe('the riders’ list', () => {
  it('shows the newest visit that is not in the trash, and the earliest day due over all visits', () => {
    const due = (id: string, startedIso: string, day: string): FitSession => ({
      ...idris,
      id,
      startedIso,
      followUps: [{ id: 'f', due: day, why: '', doneIso: null }],
    });
    const visits = [
      due('a', '2026-01-01T10:00:00.000Z', '2026-12-01'),
      due('b', '2026-06-01T10:00:00.000Z', '2027-06-01'),
      { ...due('c', '2026-09-01T10:00:00.000Z', '2020-01-01'), deletedIso: '2026-11-01T10:00:00.000Z' },
    ];
    const [row] = rowsOf(byRider({ riders: [riders[1]], visits: visits.map(summaryOfVisit) }));
    expect(row.visit?.id).toBe('b');
    expect(row.nextDue).toBe('2026-12-01');
  });
  it('leaves out who lies in the trash, and keeps who has no visit yet', () => {
    const trashed = { ...riders[0], deletedIso: '2026-11-01T10:00:00.000Z' };
    expect(names(rowsOf(byRider({ riders: [trashed, riders[2]], visits: [] })))).toEqual(['pilar']);
  });
  it('is searched by every word, in name, note, bike and complaint', () => {
    expect(names(findRiders(rows, 'pilar'))).toEqual(['pilar']);
    expect(names(findRiders(rows, '  LETTER idris '))).toEqual(['idris']);
    expect(names(findRiders(rows, 'front of knee'))).toEqual(['maren']);
    expect(findRiders(rows, 'pilar idris')).toEqual([]);
    expect(findRiders(rows, '')).toHaveLength(4);
  });
  it('is put in order by last visit, name, day due and worst complaint; ties by name', () => {
    expect(names(inOrder(rows, 'visit'))).toEqual(['maren', 'idris', 'pilar', 'juno']);
    expect(names(inOrder(rows, 'name'))).toEqual(['idris', 'juno', 'maren', 'pilar']);
    expect(names(inOrder(rows, 'complaints'))).toEqual(['idris', 'pilar', 'maren', 'juno']);
    const withDay = rows.map((r) => ({ ...r, nextDue: r.rider.id === 'pilar' ? '2027-01-01' : null }));
    expect(names(inOrder(withDay, 'due'))).toEqual(['pilar', 'idris', 'juno', 'maren']);
  });
});
