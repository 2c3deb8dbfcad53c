import { beyondBand, isOut as verdictOut } from '../protocol/judge.ts';
import type { MeasureKey } from '../protocol/protocols.ts';
import type { Finding } from '../protocol/finding.ts';

/** What a measure is in plain words, and what it means to be under or over its band. */
export const PLAIN: Partial<Record<MeasureKey, { what: string; low: string; high: string }>> = {
  kneeFlexionMinDeg: {
    what: 'How far your knee is bent at the bottom of the stroke',
    low: 'it straightens more than suits it',
    high: 'it stays more bent than suits it',
  },
  kneeFlexionMaxDeg: {
    what: 'How far your knee bends at the top of the stroke',
    low: 'it bends little',
    high: 'it bends a lot there',
  },
  hipAngleMinDeg: {
    what: 'How much room your hip has at the top of the stroke',
    low: 'it closes more than it should',
    high: 'it has plenty of room',
  },
  backAngleDeg: {
    what: 'How steep your back is',
    low: 'you lean lower than your back likes',
    high: 'you sit more upright than you need to',
  },
  shoulderAngleDeg: {
    what: 'How far your arms reach forward',
    low: 'you sit cramped',
    high: 'you reach far',
  },
  elbowFlexionDeg: {
    what: 'How soft your elbows are',
    low: 'your arms are nearly straight',
    high: 'your arms are bent a lot',
  },
  footPitch90Deg: {
    what: 'How you hold your foot while pushing',
    low: 'your heel drops',
    high: 'your toes point down',
  },
  footPitch180Deg: {
    what: 'How you hold your foot at the bottom',
    low: 'your foot stays flat',
    high: 'your toes point down, as if reaching for the pedal',
  },
  ankleRangeDeg: {
    what: 'How much your ankle works through the stroke',
    low: 'it hardly moves',
    high: 'it moves a lot: a habit, not a matter of bolts',
  },
  kneeOverSpindleMm: {
    what: 'Where your knee stands over the pedal',
    low: 'it stays far behind the pedal',
    high: 'it stands ahead of the pedal',
  },
  effectiveSeatAngleDeg: {
    what: 'How far forward you sit over the pedals',
    low: 'you sit far back',
    high: 'you sit far forward',
  },
  hipVerticalTravelMm: {
    what: 'How still your hips are',
    low: 'they are still',
    high: 'they rock from side to side',
  },
  kneePathWidthMm: {
    what: 'How straight your knees go up and down',
    low: 'they go straight',
    high: 'they wander sideways',
  },
};

export const isOut = (f: Finding): boolean => verdictOut(f.verdict);
const round = (v: number): string => String(Math.round(v)).replace('-', '−');
const unitText = (f: Finding): string => (f.unit === '°' ? '°' : ' mm');

function bandText(f: Finding): string {
  const { low, high } = f.band;
  const u = unitText(f);
  if (low !== null && high !== null) return `${round(low)} to ${round(high)}${u} is usual`;
  return low !== null
    ? `${round(low)}${u} or more is usual`
    : high !== null
      ? `up to ${round(high)}${u} is usual`
      : '';
}

/** A finding as the rider reads it: “How far your knee is bent …: 48°, 33 to 42° is usual; it stays more bent than suits it.” */
export function findingInPlainWords(f: Finding): string | null {
  const plain = PLAIN[f.key as MeasureKey];
  if (!plain) return null;
  const side = f.verdict.endsWith('high') ? plain.high : plain.low;
  const where = isOut(f) ? `; ${side}` : f.verdict === 'in' ? '; that suits you' : '; just at the edge of it';
  const band = bandText(f);
  return `${plain.what}: ${round(f.value)}${unitText(f)}${band ? ` (${band})` : ''}${where}.`;
}

/** What became of a finding that was out: “48° before, 43° now, back where it belongs”. */
export function changeInPlainWords(before: Finding, after: Finding): string | null {
  const plain = PLAIN[before.key as MeasureKey];
  if (!plain) return null;
  const end = isOut(after)
    ? beyondBand(after.value, after.band) < beyondBand(before.value, before.band)
      ? 'nearer, and not there yet'
      : 'further off than before'
    : after.verdict === 'in'
      ? 'now where it belongs'
      : 'now at the edge of where it belongs';
  const moved = round(after.value) !== round(before.value);
  return `${plain.what}: ${round(before.value)}${unitText(before)} before, ${round(after.value)}${unitText(after)} now: ${moved ? end : 'as it was'}.`;
}
