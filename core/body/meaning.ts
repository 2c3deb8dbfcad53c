import { legLength } from './estimates.ts';
import { BODY_TESTS, pair, worse, type BodyRecord, type TestKey } from './bodyTests.ts';

/** Left and right apart by this much are worth watching for on the bike, each in its own unit. Own choice: about twice what the test repeats to. */
const WATCH: Partial<Record<TestKey, number>> = {
  footLengthLoaded: 4,
  footWidth: 4,
  forefootTilt: 5,
  toeOutWalk: 6,
  toeOutJump: 6,
  straightLegRaise: 10,
  hipFlexion: 10,
  hipInternal: 10,
  hipExternal: 10,
  dorsiflexion: 6,
  standOpen: 3,
  standClosed: 3,
};

/** What a finding means on the bike, in a sentence; null while it means nothing in particular (handbook: rules; targets). */
export function meaningOf(key: TestKey, body: BodyRecord): string | null {
  const r = body.results[key];
  if (!r) return null;
  const { left, right } = pair(body, key);
  const low = worse(body, key, 'least') ?? Infinity;
  const has = (word: string): boolean => r.left === word || r.right === word || r.both === word;
  const own = ownMeaning(key, low, has, body);
  const watch = WATCH[key];
  const apart =
    left !== null && right !== null && watch !== undefined && Math.abs(left - right) >= watch
      ? `${left > right ? 'Left' : 'Right'} larger by ${Math.round(Math.abs(left - right))}: watch for it on the bike.`
      : null;
  const uneven =
    typeof r.left === 'string' && typeof r.right === 'string' && r.left !== r.right
      ? 'The sides differ: watch for it on the bike.'
      : null;
  return [own, apart, uneven].filter(Boolean).join(' ') || null;
}

function ownMeaning(key: TestKey, low: number, has: (w: string) => boolean, body: BodyRecord): string | null {
  const both = body.results[key]?.both;
  switch (key) {
    case 'straightLegRaise':
      if (low < 60) return 'Tight hamstrings: a lower saddle and a higher back than the protocol’s.';
      return low > 85 && Number.isFinite(low)
        ? 'Free: with a flat back on the hinge, room to go lower.'
        : null;
    case 'hipFlexion':
      return low < 110 ? 'Closes early at the top: a shorter crank, an open hip, before a lower bar.' : null;
    case 'dorsiflexion':
      return low < 20
        ? 'Limited: the heel will rise; the toes point more without the saddle being high.'
        : null;
    case 'hinge':
      return has('round') ? 'The back rounds: a limit for the bar’s height, and less reach.' : null;
    case 'fingertips':
      return typeof both === 'number' && both > 150 ? 'Short behind: agrees with a higher bar.' : null;
    case 'oneLegBend':
      return has('drops')
        ? 'The knee drops in: foot support first, then watch the knee’s path from the front.'
        : null;
    case 'iliotibial':
      return has('tight') ? 'Watch the outside of the knee: not too high, not too wide.' : null;
    case 'arch':
      return has('low') ? 'Wants contact under the arch before anything is done to the cleat.' : null;
    case 'forefootTilt':
      return 'Common. A wedge only if the knee’s path or the pressure shows it.';
    case 'pelvis':
      return has('left-low') || has('right-low')
        ? 'Look at the leg lengths, and whether the rider sits off one side.'
        : null;
    case 'malleoliTraction':
    case 'malleoliSitUp':
      return legLength(body).words;
    case 'shoulderRange':
      return has('painful') ? 'Pain overhead: no long or low reach on that side; a clinician’s word.' : null;
    case 'coreHold':
      return typeof both === 'number' && both < 30
        ? 'Little to hold the trunk with: the hands will carry it. Keep the bar up.'
        : null;
    default:
      return null;
  }
}

/** The card that leaves the station: limits, asymmetries to watch, nothing more. */
export function bodySummary(body: BodyRecord): { limits: string[]; watch: string[] } {
  const limits: string[] = [];
  const watch: string[] = [];
  const low = (key: TestKey): number => worse(body, key, 'least') ?? Infinity;
  if (low('straightLegRaise') < 60) limits.push('Hamstrings: no high saddle, no low bar.');
  if (body.results.hinge?.both === 'round') limits.push('The bar can’t go lower than this back allows.');
  if (low('hipFlexion') < 110) limits.push('Hips close early: watch crank length and bar height.');
  if (low('dorsiflexion') < 20) limits.push('Ankles: the foot will point.');
  const ll = legLength(body);
  if (ll.kind === 'tibia' || ll.kind === 'femur' || ll.kind === 'true')
    watch.push(
      `${ll.longer === 'left' ? 'Left' : 'Right'} leg ${Math.round(ll.differenceMm)} mm longer${ll.refer ? ': refer before treating' : ''}.`,
    );
  for (const test of BODY_TESTS) {
    const { left, right } = pair(body, test.key);
    const by = WATCH[test.key];
    if (left !== null && right !== null && by !== undefined && Math.abs(left - right) >= by)
      watch.push(
        `${test.name}: ${left > right ? 'left' : 'right'} larger by ${Math.round(Math.abs(left - right))}.`,
      );
  }
  return { limits, watch };
}
