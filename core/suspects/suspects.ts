import { complaintName, openComplaints, type Complaint, type RegionKey } from '../intake/intake.ts';
import { onBikeEvidence } from './onBike.ts';
import type { CaseFile, Rule } from './evidence.ts';
import { RULES, type SuspectKey } from './suspectRules.ts';

export interface Suspect {
  key: SuspectKey;
  what: string;
  /** The test that decides, cheap ones first. */
  test: string;
  change: string;
  /** Lower is cheaper to try. */
  cost: number;
  for: string[];
  against: string[];
  score: number;
}

export interface SuspectsOf {
  complaint: Complaint;
  name: string;
  suspects: Suspect[];
}

/** Who is looked at for which complaint, in the handbook's order. */
const BY_REGION: Record<RegionKey, readonly SuspectKey[]> = {
  kneeFront: ['saddleLow', 'saddleForward', 'crankLong', 'cleatForward', 'lowCadence'],
  kneeBehind: ['saddleHigh', 'saddleBack', 'flatFoot', 'hamstrings'],
  kneeInside: ['stanceNarrow', 'cleatRotation', 'forefootTilt', 'saddleHigh'],
  kneeOutside: ['saddleHigh', 'stanceWide', 'cleatRotation', 'saddleNarrow', 'legLength'],
  forefoot: [
    'shoe',
    'archContact',
    'cleatForward',
    'saddleHigh',
    'saddleLow',
    'saddleForward',
    'forefootPad',
    'forefootTilt',
    'cold',
  ],
  footOutside: ['shoe', 'stanceNarrow', 'saddleHigh'],
  calf: ['cleatForward', 'saddleHigh'],
  softTissue: [
    'saddleHigh',
    'reachLong',
    'barLow',
    'noseDown',
    'noseUp',
    'saddleNarrow',
    'noRelief',
    'pelvis',
    'legLength',
  ],
  sitBones: ['saddleNarrow', 'saddleSoft', 'uprightOnNarrow', 'legLength'],
  hands: [
    'noseDown',
    'saddleForward',
    'reachLong',
    'reachShort',
    'elbowsLocked',
    'barLow',
    'barRolled',
    'stanceNarrow',
    'leverReach',
  ],
  neck: ['reachLong', 'barLow', 'barRolled', 'elbowsLocked', 'hoods'],
  lowBack: ['saddleHigh', 'barLow', 'reachLong', 'hamstrings', 'legLength', 'pelvis'],
  hipFront: ['crankLong', 'saddleLow', 'barLow', 'cleatFarBack'],
  crooked: ['legLength', 'cleatsUnlike', 'pelvis', 'saddleHigh', 'oldInjury'],
  cramped: ['reachShort', 'saddleForward'],
};

/** What side and onset of a complaint say (handbook: rules, symptoms). */
function whereAndWhen(
  key: SuspectKey,
  { region, side, onset }: Complaint,
): { weight: number; text: string }[] {
  const one = side === 'left' || side === 'right';
  const of = (weight: number, text: string): { weight: number; text: string }[] => [{ weight, text }];
  if (region === 'footOutside' && key === 'stanceNarrow' && onset === 'builds-up' && side === 'both')
    return of(0.5, 'builds up, both feet');
  if (region === 'footOutside' && key === 'saddleHigh' && one) return of(0.5, 'one foot only');
  if (key === 'legLength' || key === 'pelvis') return one ? of(0.4, 'one side only') : [];
  if (key === 'cleatRotation' && one) return of(0.3, 'one side only');
  return [];
}

/**
 * Suspects of each complaint, ranked: by the evidence of this very session, then by how cheap they are to try, then by the
 * handbook's order. Worst complaint first.
 */
export function rankSuspects(c: CaseFile): SuspectsOf[] {
  return openComplaints(c.intake.complaints)
    .sort((a, b) => b.severity - a.severity)
    .map((complaint) => ({
      complaint,
      name: complaintName(complaint),
      suspects: BY_REGION[complaint.region]
        .map((key): Suspect => {
          const rule: Rule = RULES[key];
          const found = [
            ...rule.evidence(c, complaint),
            ...onBikeEvidence(key, c.onBike ?? {}),
            ...whereAndWhen(key, complaint),
          ];
          return {
            key,
            what: rule.what,
            test: rule.test,
            change: rule.change,
            cost: rule.cost,
            for: found.filter((e) => e.weight > 0).map((e) => e.text),
            against: found.filter((e) => e.weight < 0).map((e) => e.text),
            score: found.reduce((s, e) => s + e.weight, 0),
          };
        })
        // Sorting is stable: of equals the handbook's order stays.
        .sort((a, b) => b.score - a.score || a.cost - b.cost),
    }));
}
