import type { Part } from '../../bike/parts.ts';
import { applyMoves, cannot, effectsOf, type Moves } from '../controls/controls.ts';
import type { Draft } from './draft.ts';
import { explained } from './hints.ts';
import { STANDS } from '../terms/belief.ts';
import { eitherOff, type HandsBelief } from './hands.ts';
import type { Ask, PlanCase } from '../terms/plan.ts';

/** How near to the wanted place counts as well as one more thing touched (own scale). */
const NEAR_MM = 9;

/** Where nothing of back, shoulder and elbow is even nearly out, hands of which nobody knows the way are left where they are. */
const UPPER: ReadonlySet<string> = new Set(['backAngleDeg', 'shoulderAngleDeg', 'elbowFlexionDeg']);
const NEARLY_OUT = 0.4;

/** The least P of a direction that has its part in a step whose direction is not told. */
const LEAST_SHARE = 0.2;

interface Way {
  moves: Moves;
  price: number;
  /** Words of the part it takes; null where nothing is bought. */
  part: string | null;
}

/** Stems that can be had: those of the parts, and by name those to order, one round's step either way. */
function stems(c: PlanCase): Way[] {
  const { lengthMm: length, angleDeg: angle, onePiece } = c.bike.stem;
  if (length === null || onePiece) return [];
  const inParts = (l: number): Part | undefined =>
    (c.parts ?? []).find(
      (p) =>
        p.kind === 'stem' &&
        p.count > 0 &&
        p.lengthMm === l &&
        (p.angleDeg === null || angle === null || Math.abs(p.angleDeg) === Math.abs(angle)),
    );
  return [-20, -10, 10, 20].map((by) => {
    const l = length + by;
    const part = inParts(l);
    return {
      moves: { stemLength: by },
      price: part ? 0.5 : 1,
      part: part
        ? `${part.name} is in the parts`
        : c.parts === null
          ? `a stem of ${l} mm`
          : `no stem of ${l} mm in the parts: to order`,
    };
  });
}

/** Every way to put the hands elsewhere that this bike gives, one thing at a time and in pairs. */
function ways(c: PlanCase): Way[] {
  const { bike } = c;
  const free = (moves: Moves, price = 0.2): Way => ({ moves, price, part: null });
  if (bike.extensions)
    return [-20, -15, -10, -5, 0, 5, 10, 15, 20].flatMap((padRise) =>
      [-20, -15, -10, -5, 0, 5, 10, 15, 20].map((padAhead) =>
        free(
          { ...(padRise && { padRise }), ...(padAhead && { padAhead }) },
          0.2 * (Number(padRise !== 0) + Number(padAhead !== 0)),
        ),
      ),
    );
  const { angleDeg, flipped, onePiece, spacersMm, steererAboveMm } = bike.stem;
  const heights: Way[] = [];
  if (spacersMm !== null)
    for (let by = 5; by <= Math.min(20, spacersMm); by += 5) heights.push(free({ spacers: -by }));
  // More spacers go under only where the steerer is known to stand above the stem.
  if (steererAboveMm !== null)
    for (let by = 5; by <= Math.min(20, steererAboveMm); by += 5) heights.push(free({ spacers: by }));
  if (!onePiece && angleDeg !== null && Math.abs(angleDeg) >= 4)
    heights.push(free({ stemFlip: flipped ? -1 : 1 }, 0.4));
  const lengths = stems(c);
  return [
    ...heights,
    ...lengths,
    ...lengths.flatMap((l) =>
      heights.map((h): Way => ({
        moves: { ...l.moves, ...h.moves },
        price: l.price + h.price,
        part: l.part,
      })),
    ),
  ];
}

/** Whether the hands want up and the bike cannot say whether it gives that. */
const asksForSteerer = (c: PlanCase, upMm: number): boolean =>
  upMm >= 5 && !c.bike.extensions && c.bike.stem.steererAboveMm === null;

/** What has to be known before the bar can be moved as wanted. */
function cockpitAsks(c: PlanCase, wanted: { x: number; y: number }): Ask[] {
  const out: Ask[] = [];
  if (asksForSteerer(c, wanted.y))
    out.push({
      key: 'steerer',
      question: 'How much steerer is left above the stem?',
      because: 'the bar is wanted higher, and spacers go under the stem only as far as the steerer reaches',
    });
  if (Math.abs(wanted.x) >= 5 && !c.bike.extensions && c.bike.stem.lengthMm === null)
    out.push({
      key: 'stem',
      question: 'Which stem is on the bike: length and angle?',
      because: 'the hands are wanted nearer or further, and no stem was typed',
    });
  return out;
}

/** What the line is called by where the hands go. */
function faultOf(b: HandsBelief, reach: boolean, bar: boolean, either: boolean): string {
  const words = [
    reach && (b.reach.over > b.reach.under ? 'reach too long' : 'reach too short'),
    bar && (b.bar.over > b.bar.under ? 'bar too high' : 'bar too low'),
  ].filter(Boolean);
  return words.join(either ? ' or ' : ', ');
}

export interface HandsDraft {
  draft: Draft | null;
  asks: Ask[];
  /** Where no way of this bike brings the hands nearer. */
  stuck: string | null;
}

const NONE: HandsDraft = { draft: null, asks: [], stuck: null };

type HandsKey = 'reach' | 'bar';

/** Where the hands are wanted, mm, and how sure that is. */
interface HandsWanted {
  keyed: HandsKey[];
  /** All the way, and as far as one round goes. */
  allMm: { x: number; y: number };
  wantedMm: { x: number; y: number };
  mostMm: number;
  /** That the hands are off may be known where which way is not: a bar that is lower is felt as one that is further. */
  undecided: boolean;
  chance: number;
  fault: string;
}

const wayOf = (b: HandsBelief, k: HandsKey): 'under' | 'over' => (b[k].over > b[k].under ? 'over' : 'under');

function handsWanted(c: PlanCase, b: HandsBelief, half: boolean): HandsWanted | null {
  const p = { reach: Math.max(b.reach.under, b.reach.over), bar: Math.max(b.bar.under, b.bar.over) };
  // Speed on the extensions never asks for higher pads (handbook: judgement).
  const raises = b.bar.under > b.bar.over;
  const noRaise = c.bike.extensions !== null && raises && c.intake.goals.includes('speed');
  // A back that is already too low is never stretched further.
  const low = c.measures.some((m) => m.key === 'backAngleDeg' && m.pOut.low >= 0.35);
  const stretches = b.reach.under > b.reach.over;
  const undecided = Math.max(p.reach, p.bar) < STANDS.try;
  if (
    undecided &&
    !c.measures.some((m) => UPPER.has(m.key) && Math.max(m.pOut.low, m.pOut.high) >= NEARLY_OUT)
  )
    return null;
  const from = undecided ? LEAST_SHARE : STANDS.try;
  const doReach = p.reach >= from && !(low && stretches);
  const doBar = p.bar >= from && !noRaise;
  if (!doReach && !doBar) return null;
  const keyed: HandsKey[] = [...(doReach ? (['reach'] as const) : []), ...(doBar ? (['bar'] as const) : [])];
  const eitherMayBe = undecided && doReach && doBar;
  const mostMm = half ? 10 : 20;
  const clampTo = (v: number): number => Math.max(-mostMm, Math.min(mostMm, v));
  const allMm = { x: doReach ? -b.meanMm.reach : 0, y: doBar ? -b.meanMm.bar : 0 };
  return {
    keyed,
    allMm,
    wantedMm: { x: clampTo(allMm.x), y: clampTo(allMm.y) },
    mostMm,
    undecided,
    chance: eitherMayBe
      ? eitherOff(b, wayOf(b, 'reach'), wayOf(b, 'bar'))
      : Math.max(...keyed.map((k) => p[k])),
    fault: faultOf(b, doReach, doBar, eitherMayBe),
  };
}

/** The way of this bike and its parts that brings the hands nearest to where they are wanted; null where none is better than staying. */
function nearestWay(
  c: PlanCase,
  { wantedMm, mostMm, keyed }: HandsWanted,
  half: boolean,
  keeps: (moves: Moves) => boolean,
): { way: Way; handMm: { x: number; y: number } } | null {
  const barNearMm = keyed.includes('bar') ? NEAR_MM : 2 * NEAR_MM;
  const costOf = (x: number, y: number): number =>
    ((x - wantedMm.x) / NEAR_MM) ** 2 + ((y - wantedMm.y) / barNearMm) ** 2;
  let best: { way: Way; cost: number; handMm: { x: number; y: number } } | null = null;
  const start = costOf(0, 0);
  for (const way of ways(c)) {
    if (Object.keys(way.moves).length === 0 || cannot(c.bike, way.moves)) continue;
    const { handMm } = effectsOf(c.bike, way.moves);
    const cost = costOf(handMm.x, handMm.y) + way.price;
    if (cost >= start || cost >= (best?.cost ?? Infinity)) continue;
    // A half-step rider's hands go half as far, but for a whole part's own step.
    if (half && Math.hypot(handMm.x, handMm.y) > 1.5 * mostMm + 6) continue;
    if (!keeps(way.moves)) continue;
    best = { way, cost, handMm };
  }
  return best;
}

/** Where the hands should go though nothing brings them there; null where that is hardly worth a word. */
function stuckWords({ wantedMm: { x, y }, fault }: HandsWanted): string | null {
  const how = [
    Math.abs(x) >= 5 && `${Math.round(Math.abs(x))} mm ${x < 0 ? 'nearer' : 'further'}`,
    Math.abs(y) >= 5 && `${Math.round(Math.abs(y))} mm ${y > 0 ? 'higher' : 'lower'}`,
  ].filter(Boolean);
  return how.length
    ? `The hands are wanted ${how.join(' and ')} (${fault}), and what is known of this cockpit gives no way there.`
    : null;
}

/**
 * The cockpit’s line: the hands brought towards where back, shoulder and elbow want them, by what this bike and its parts give.
 * @param half half of a round's way for who takes half steps
 * @param keeps whether a way leaves every measure in its band that is in it
 */
export function handsDraft(
  c: PlanCase,
  b: HandsBelief,
  half: boolean,
  keeps: (moves: Moves) => boolean,
): HandsDraft {
  const want = handsWanted(c, b, half);
  if (!want) return NONE;
  const { keyed, allMm, fault } = want;
  const asks = cockpitAsks(c, want.wantedMm);
  const best = nearestWay(c, want, half, keeps);
  if (!best) return { ...NONE, asks, stuck: stuckWords(want) };
  const { moves, part } = best.way;
  return {
    asks,
    stuck: null,
    draft: {
      key: 'hands',
      stage: 'cockpit',
      p: want.chance,
      fault,
      madeOf: [
        ...b.signs,
        ...keyed.flatMap((k) => b.hints[k].filter((h) => h[wayOf(b, k)] !== 1).map((h) => h.text)),
      ],
      why: [`${fault}: ${b.signs.join('; ')}`, ...(part ? [part] : [])],
      answers: [...new Set(keyed.flatMap((k) => explained(c, k, wayOf(b, k)).map((q) => q.id)))],
      // Which of the two it is only the rider can say.
      ...(want.undecided && { atMost: 'try' as const }),
      whole: applyRest(c, moves, { x: allMm.x - best.handMm.x, y: allMm.y - best.handMm.y }),
      bought: part !== null,
      tryMoves: firstStep(moves),
      risk: [
        c.bike.extensions
          ? 'Pads and extensions to the maker’s torque; steer and brake before riding.'
          : 'Steerer and stem to the maker’s torque; brakes straight and reachable before riding.',
      ],
      check: 'static reach test, hands off, one hand; brakes from hoods and drops',
    },
  };
}

/** A step to try by goes 10 mm at most: the smallest of a stem, and what goes back under it in a minute. */
const firstStep = (moves: Moves): Moves =>
  Object.fromEntries(
    (Object.entries(moves) as [keyof Moves, number][]).map(([key, by]) => [
      key,
      key === 'stemFlip' ? by : Math.sign(by) * Math.min(10, Math.abs(by)),
    ]),
  );

/** What is still wanted after this round, as far as one more stem step of the same kind tells it. */
function applyRest(c: PlanCase, moves: Moves, rest: { x: number; y: number }): Moves {
  if (moves.stemLength === undefined || Math.sign(moves.stemLength) !== Math.sign(rest.x)) return moves;
  const more = 10 * Math.round(rest.x / 10);
  const to = applyMoves(c.bike, { stemLength: moves.stemLength + more }).stem.lengthMm;
  return to === null || to < 50 || to > 130 ? moves : { ...moves, stemLength: moves.stemLength + more };
}
