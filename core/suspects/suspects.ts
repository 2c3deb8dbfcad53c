import { complaintName, openComplaints, type Complaint, type RegionKey } from '../intake/intake.ts';
import { onBikeEvidence } from './onBikeEvidence.ts';
import { say, type SuspectCase, type Evidence, type Rule } from './evidence.ts';
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
  /** What was not looked at. */
  unknown: string[];
  score: number;
}

export interface SuspectsOf {
  complaint: Complaint;
  name: string;
  suspects: Suspect[];
}

/** Who is looked at for which complaint, in the handbook's order. */
const BY_REGION: Record<RegionKey, readonly SuspectKey[]> = {
  kneeFront: ['saddleLow', 'saddleForward', 'crankLong', 'cleatForward', 'lowCadence', 'recentChange'],
  kneeBehind: ['saddleHigh', 'saddleBack', 'flatFoot', 'hamstrings'],
  kneeInside: [
    'stanceNarrow',
    'stanceWide',
    'cleatRotation',
    'forefootTilt',
    'footControl',
    'hipRotation',
    'saddleHigh',
  ],
  kneeOutside: [
    'saddleHigh',
    'stanceWide',
    'cleatRotation',
    'iliotibial',
    'saddleWide',
    'hipRotation',
    'legLength',
  ],
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
  toes: ['shoe', 'cold', 'cleatForward', 'forefootPad', 'saddleHigh'],
  footOutside: ['shoe', 'stanceNarrow', 'saddleHigh', 'forefootTilt', 'cleatForward'],
  ankle: ['cleatRotation', 'cleatForward', 'footControl', 'stanceNarrow', 'saddleHigh'],
  calf: ['cleatForward', 'saddleHigh', 'saddleLow', 'recentChange'],
  softTissue: [
    'noseUp',
    'saddleHigh',
    'reachLong',
    'barLow',
    'noseDown',
    'saddleNarrow',
    'noRelief',
    'pelvis',
    'legLength',
  ],
  sitBones: ['saddleNarrow', 'saddleSoft', 'uprightOnNarrow', 'saddleHigh', 'legLength'],
  buttock: ['saddleHigh', 'saddleBack', 'hamstrings', 'saddleNarrow', 'reachLong'],
  outerHip: ['saddleHigh', 'iliotibial', 'stanceWide', 'legLength', 'saddleWide'],
  hands: [
    'noseDown',
    'saddleForward',
    'reachLong',
    'reachShort',
    'elbowsLocked',
    'barLow',
    'barRolled',
    'handsHabit',
    'leverReach',
    'core',
    'barWide',
    'stanceNarrow',
  ],
  wrist: ['barRolled', 'hoods', 'leverReach', 'handsHabit', 'noseDown', 'saddleForward', 'barLow'],
  neck: ['reachLong', 'barLow', 'barRolled', 'elbowsLocked', 'hoods', 'shoulderStiff', 'barWide'],
  betweenShoulders: ['reachLong', 'barLow', 'elbowsLocked', 'hoods', 'shoulderStiff', 'core', 'barWide'],
  lowBack: ['saddleHigh', 'barLow', 'reachLong', 'hamstrings', 'core', 'legLength', 'pelvis'],
  hipFront: ['crankLong', 'saddleLow', 'barLow', 'cleatFarBack', 'hipRotation'],
  crooked: ['legLength', 'cleatsUnlike', 'pelvis', 'saddleHigh', 'oldInjury'],
  cramped: ['reachShort', 'saddleForward'],
  other: ['recentChange', 'oldInjury'],
};

/** What side and onset of a complaint say (handbook: rules, symptoms). */
function whereAndWhen(key: SuspectKey, { region, side, onset }: Complaint): Evidence[] {
  const one = side === 'left' || side === 'right';
  if (region === 'footOutside' && key === 'stanceNarrow' && onset === 'builds-up' && side === 'both')
    return [say(0.5, 'builds up, both feet')];
  if (region === 'footOutside' && key === 'saddleHigh' && one) return [say(0.5, 'one foot only')];
  if (key === 'legLength' || key === 'pelvis' || key === 'cleatsUnlike')
    return one ? [say(0.4, 'one side only')] : [];
  if (key === 'cleatRotation' && one) return [say(0.3, 'one side only')];
  return [];
}

/**
 * Suspects of each complaint, ranked: what speaks for itself by how much, then what was not looked at, then what was looked for and
 * not found. Of equals the cheap ones to try first, then the handbook's order. Worst complaint first.
 */
export function rankSuspects(c: SuspectCase): SuspectsOf[] {
  return openComplaints(c.intake.complaints)
    .sort((a, b) => b.severity - a.severity)
    .map((complaint) => ({
      complaint,
      name: complaintName(complaint),
      suspects: BY_REGION[complaint.region]
        .map((key): Suspect => {
          const rule: Rule = RULES[key];
          const found: Evidence[] = [
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
            unknown: found.filter((e) => e.unknown).map((e) => e.text),
            score: Math.round(100 * found.reduce((s, e) => s + e.weight, 0)) / 100,
          };
        })
        .sort(bySuspicion),
    }));
}

/** Counter-evidence alone never brings a suspect to the front: it only stands behind what was not looked at. */
function bySuspicion(a: Suspect, b: Suspect): number {
  const speaks = Math.max(0, b.score) - Math.max(0, a.score);
  if (speaks !== 0) return speaks;
  const refuted = Number(a.score < 0) - Number(b.score < 0);
  // Sorting is stable: of those refuted the handbook's order stays.
  return refuted || (a.score < 0 ? 0 : a.cost - b.cost);
}
