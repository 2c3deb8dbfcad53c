import { cannot, effectsOf, standsAt, tidy, type Moves } from './controls/controls.ts';
import { CONTROLS, type ControlKey } from './controls/controlTable.ts';
import type { PlanCase } from './terms/plan.ts';

/** A way to put the hands elsewhere: what is moved, and which part it takes. */
export interface CockpitBuild {
  moves: Moves;
  extra: number;
}

/** Price of a thing touched and of a millimetre moved (own scale; see decisions). */
const PER_TOUCH = 1;
const PER_UNIT = 0.03;

/** What moves themselves cost: each thing touched, and how far. */
const priceOf = (moves: Moves): number =>
  (Object.entries(moves) as [ControlKey, number][]).reduce(
    (s, [key, by]) => (by === 0 ? s : s + PER_TOUCH * CONTROLS[key].price + PER_UNIT * Math.abs(by)),
    0,
  );

/** Every build that the steerer and the parts bin give, and a few that can be ordered. */
function builds(c: Pick<PlanCase, 'bike' | 'parts'>): CockpitBuild[] {
  const { bike } = c;
  if (bike.extensions) {
    const out: CockpitBuild[] = [];
    for (let padRise = -50; padRise <= 50; padRise += 5)
      for (let padAhead = -40; padAhead <= 40; padAhead += 5)
        out.push({ moves: { padRise, padAhead }, extra: 0 });
    return out;
  }
  const length = bike.stem.lengthMm ?? 90;
  const angle = bike.stem.angleDeg ?? -6;
  const flipped = bike.stem.flipped;
  const spacersNow = bike.stem.spacersMm ?? 15;
  const stems = new Map<string, { length: number; angle: number; extra: number }>();
  const add = (l: number, a: number, extra: number): void => {
    const key = `${l}/${a}`;
    const kept = stems.get(key);
    if (!kept || kept.extra > extra) stems.set(key, { length: l, angle: a, extra });
  };
  add(length, angle, 0);
  const parts = c.parts ?? [];
  for (const p of parts)
    if (p.kind === 'stem' && p.count > 0 && p.lengthMm !== null) add(p.lengthMm, p.angleDeg ?? angle, 0);
  // To order: the usual lengths of the angle that is on the bike.
  for (let l = 50; l <= 130; l += 10) add(l, angle, 0.8);
  const out: CockpitBuild[] = [];
  const most = Math.max(spacersNow, Math.min(spacersNow + 20, 40));
  for (const s of stems.values())
    for (const flip of [false, true])
      for (let spacers = spacersNow % 5; spacers <= most; spacers += 5)
        for (const barReach of [
          0,
          -10,
          10,
          ...(parts.some((p) => p.kind === 'bar' && p.reachMm !== null) ? [-20] : []),
        ]) {
          const moves = tidy({
            stemLength: s.length - length,
            // A stem from the parts bin has its own angle as printed; the flip is reported beside it.
            stemAngle: s.angle - angle,
            stemFlip: Number(flip) - Number(flipped),
            spacers: spacers - spacersNow,
            barReach,
          });
          // A bar of another reach is a part that the parts bin may not have.
          if (barReach !== 0 && (bike.bar.reachMm === null || bike.bar.reachMm < 60)) continue;
          const swap = moves.stemLength !== undefined || moves.stemAngle !== undefined;
          out.push({
            moves,
            extra: swap ? s.extra : 0,
          });
        }
  return out;
}

/** Length, angle and flip belong to one stem: taking it off is paid once. */
function priceOfBuild(moves: Moves): number {
  const { stemLength, stemAngle, stemFlip, ...rest } = moves;
  const swapped = stemLength !== undefined || stemAngle !== undefined;
  return (
    priceOf(rest) +
    (swapped
      ? PER_TOUCH * CONTROLS.stemLength.price + PER_UNIT * Math.abs(stemLength ?? 0)
      : stemFlip
        ? PER_TOUCH * CONTROLS.stemFlip.price
        : 0)
  );
}

/** A wanted place of the hood, and how near each build from the parts bin comes. */
export interface BuildOffer {
  moves: Moves;
  /** By how much it moves the hands. */
  handMm: { x: number; y: number };
  missMm: number;
  /** Of parts that have to be bought, in the studio's money; null where one has no price. */
  price: number | null;
  inBin: boolean;
  words: string;
}

/**
 * The inverse of the cockpit: stems × spacers × flips × bars by how near they bring the hands to a wanted displacement, cheapest of
 * equals first (handbook: models, frame and cockpit).
 */
export function buildsFor(
  c: Pick<PlanCase, 'bike' | 'parts'>,
  wantedMm: { x: number; y: number },
  count = 8,
): BuildOffer[] {
  const now = { length: c.bike.stem.lengthMm ?? 90, angle: c.bike.stem.angleDeg ?? -6 };
  return builds(c)
    .filter(({ moves }) => !cannot(c.bike, moves))
    .map(({ moves }): BuildOffer => {
      const { handMm } = effectsOf(c.bike, moves);
      const swapped = moves.stemLength !== undefined || moves.stemAngle !== undefined;
      const length = now.length + (moves.stemLength ?? 0);
      const angle = now.angle + (moves.stemAngle ?? 0);
      const stem = (c.parts ?? []).find(
        (p) =>
          p.kind === 'stem' && p.lengthMm === length && (p.angleDeg ?? now.angle) === angle && p.count > 0,
      );
      const inBin = (!swapped || stem !== undefined) && !moves.barReach;
      const flipped = Number(c.bike.stem.flipped) + (moves.stemFlip ?? 0) > 0.5;
      return {
        moves,
        handMm,
        missMm: Math.hypot(handMm.x - wantedMm.x, handMm.y - wantedMm.y),
        price: !swapped && !moves.barReach ? 0 : inBin ? (stem?.price ?? null) : null,
        inBin,
        words: c.bike.extensions
          ? `pads ${signed(moves.padRise ?? 0)} mm up, ${signed(moves.padAhead ?? 0)} mm ahead`
          : [
              swapped
                ? `stem ${length} mm ${String(angle).replace('-', '−')}°${stem ? ` (${stem.name})` : ', to order'}`
                : 'stem as it is',
              flipped ? 'turned over' : null,
              `${(standsAt(c.bike, 'spacers') ?? 15) + (moves.spacers ?? 0)} mm of spacers`,
              moves.barReach ? `bar of ${signed(moves.barReach)} mm reach` : null,
            ]
              .filter(Boolean)
              .join(', '),
      };
    })
    .sort(
      (a, b) => Math.round(a.missMm) - Math.round(b.missMm) || priceOfBuild(a.moves) - priceOfBuild(b.moves),
    )
    .slice(0, count);
}

const signed = (v: number): string => (v > 0 ? `+${v}` : v < 0 ? `−${-v}` : '0');
