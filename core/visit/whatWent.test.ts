import { describe, expect, it } from 'vitest';
import { CATALOGUE } from '../../app/demo/catalogue.ts';
import type { FitSession } from '../records/types.ts';
import { whatWent, withReturned } from './whatWent.ts';

const visit = CATALOGUE.sessions.find((s) => s.id === 'maren-1')!;
const withComplaints = (list: FitSession['intake']['complaints']): FitSession => ({
  ...visit,
  intake: { ...visit.intake, complaints: list },
});

describe('what an edit took out of a list', () => {
  const [first, second, ...rest] = visit.intake.complaints;
  it('is named, and comes back where it stood', () => {
    const after = withComplaints([second, ...rest]);
    const went = whatWent(visit, after)!;
    expect(went.words).toMatch(/^Complaint removed: .*knee/i);
    expect(withReturned(after, went)).toEqual(visit.intake.complaints);
  });
  it('comes back beside what was changed since, and not twice', () => {
    const went = whatWent(visit, withComplaints([second, ...rest]))!;
    const changed = { ...second, severity: 1 };
    expect(withReturned(withComplaints([changed]), went)).toEqual([first, changed]);
    expect(withReturned(visit, went)).toEqual(visit.intake.complaints);
  });
  it('is nothing where values only changed, or something came', () => {
    expect(whatWent(visit, withComplaints([{ ...first, severity: 9 }, second, ...rest]))).toBeNull();
    expect(whatWent(withComplaints([]), visit)).toBeNull();
  });
  it('of follow-ups is told by its reason; of decisions only where several went', () => {
    const due = { id: 'f1', due: '2026-12-12', why: 'How the knee is', doneIso: null };
    const agreed: FitSession = { ...visit, followUps: [due] };
    expect(whatWent(agreed, { ...agreed, followUps: [] })!.words).toBe('Follow-up removed: How the knee is');
    const decided = (keys: string[]): FitSession => ({
      ...visit,
      planning: {
        ...visit.planning,
        decisions: keys.map((key) => ({ key, state: 'accepted', moves: {}, reason: '', p: null })),
      },
    });
    expect(whatWent(decided(['a']), decided([]))).toBeNull();
    expect(whatWent(decided(['a', 'b']), decided([]))!.words).toBe('2 decisions reset');
  });
});
