import { withPitch } from './bodyModel.ts';
import type { Moves } from './controls.ts';
import { asItIs, laidOut } from './foretell.ts';
import type { PlanCase, PlanLine } from './plan.ts';
import type { FilmedSide } from './solveCase.ts';

/**
 * A foot that points below its band by more than the film can err hides a saddle that is too high: the model then pedals with the
 * pitch at the band's edge, and the knee is judged as it would be without the pointing (handbook: compensations).
 */
export function unmasked(c: PlanCase): { sides: FilmedSide[]; seen: string[] } {
  const seen: string[] = [];
  const sides = c.sides.map(({ model, measures }): FilmedSide => {
    const pitch = measures.find((m) => m.key === 'footPitch180Deg');
    const knee = measures.find((m) => m.key === 'kneeFlexionMinDeg');
    if (!pitch || !knee || pitch.verdict !== 'high' || knee.verdict === 'high') return { model, measures };
    const by = pitch.band.high! - pitch.value;
    const plain = withPitch(model, by);
    const [own, bare] = [asItIs(laidOut(model)), asItIs(laidOut(plain))];
    if (!own) return { model, measures };
    // A leg that can't reach at all without pointing tells the same, more loudly.
    if (!bare) {
      seen.push(
        `The foot points ${Math.round(pitch.value)}° down at the bottom. Without that the leg would not reach the pedal: the saddle is too high, and the pointing is expected to go with it.`,
      );
      return { model, measures };
    }
    const value = knee.value + bare.values.kneeFlexionMinDeg - own.values.kneeFlexionMinDeg;
    seen.push(
      `The foot points ${Math.round(pitch.value)}° down at the bottom. Without that the knee would straighten to ${Math.round(value)}°: the pointing hides a saddle that is too high, and is expected to go with it.`,
    );
    const verdict = knee.band.low !== null && value < knee.band.low - knee.uncertainty ? 'low' : knee.verdict;
    return {
      model: plain,
      measures: measures
        .map((m) => (m.key === 'kneeFlexionMinDeg' ? { ...m, value, verdict } : m))
        // The pitch itself is what vanishes.
        .filter(
          (m) => m.key !== 'footPitch180Deg' && m.key !== 'footPitch90Deg' && m.key !== 'ankleRangeDeg',
        ),
    };
  });
  return { sides, seen };
}

/** Compensations that the tests on the bike and the bike itself show, each with the lines that take their cause away. */
export function otherCompensations(c: PlanCase, lines: readonly PlanLine[]): string[] {
  const stands = (key: string, moves: (m: Moves) => boolean): boolean =>
    lines.some((l) => l.key === key && l.decision?.state !== 'rejected' && moves(l.moves));
  const named = (causes: readonly (string | false)[]): string => causes.filter(Boolean).join(', ');
  const out: string[] = [];
  if (c.onBike?.slides === 'yes') {
    const causes = named([
      stands('saddleUp', (m) => (m.saddleUp ?? 0) < 0) && 'the saddle comes down',
      stands('saddleTilt', (m) => (m.saddleTilt ?? 0) > 0) && 'its nose comes up',
      stands('front', () => true) && 'the hands come nearer or higher',
    ]);
    out.push(
      causes
        ? `The rider slides forward: expected to go, since ${causes}.`
        : 'The rider slides forward, and nothing here takes its cause away: look at saddle height, tilt and reach again.',
    );
  }
  if ((c.bike.bar.rotationDeg ?? 0) >= 8)
    out.push(
      'The bar is rolled up: usually for a reach that is too long or a bar too low; it is turned back after those.',
    );
  return out;
}
