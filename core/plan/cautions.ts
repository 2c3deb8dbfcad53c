import { legLength, shoeAdvice, crankRangeMm } from '../body/estimates.ts';
import { pair, single, worse } from '../body/bodyTests.ts';
import { isLow } from '../protocol/judge.ts';
import { isMinor, openComplaints } from '../intake/intake.ts';
import { operatedSide } from './clinician.ts';
import { roundLines, type PlanCase, type Prescription } from './terms/plan.ts';

export interface Caution {
  key: string;
  words: string;
  /** Has to be acknowledged by the fitter. */
  serious: boolean;
}

/** The cautions that apply to this rider and this plan (handbook: rules, cautions): shown, never hidden in a help page. */
// eslint-disable-next-line max-lines-per-function -- one rule after the other, each by itself
export function cautionsFor(
  c: Pick<PlanCase, 'intake' | 'body' | 'bike' | 'halfSteps'>,
  plan: Prescription,
): Caution[] {
  const out: Caution[] = [];
  const say = (key: string, serious: boolean, words: string): number => out.push({ key, serious, words });
  if (isMinor(c.intake))
    say(
      'minor',
      true,
      'Rider under 18: guardian’s consent, a guardian in the room for every test; review after 3–4 months, post and stem with room to grow.',
    );
  if (c.intake.ageYears !== null && c.intake.ageYears < 13)
    say(
      'child',
      false,
      'Children’s cranks go down to 110 mm; the foot reaches the ground before anything else.',
    );
  if (c.intake.redFlags.some((f) => f.key === 'pregnancy'))
    say('pregnancy', true, 'Pregnancy: a clinician’s word, and the fit looked at again each month.');
  if (legLength(c.body).refer)
    say(
      'legLength',
      true,
      'Over 6 mm of true leg-length difference: a licensed clinician first. No diagnosis is made here.',
    );
  if (openComplaints(c.intake.complaints).some((q) => q.severity >= 7))
    say(
      'strongPain',
      true,
      'A complaint of 7 or more: stop on pain; if it is there at rest or at night, refer.',
    );
  const keys = new Set(roundLines(plan).map((l) => l.key));
  const up = plan.total.saddleUp ?? 0;
  const back = Math.max(plan.total['cleatBack.left'] ?? 0, plan.total['cleatBack.right'] ?? 0);
  if (Math.abs(up) > 10 || keys.size >= 3)
    say(
      'bigChange',
      true,
      'A big change is a new load on tissue: small steps, easy rides first, filmed again in between.',
    );
  if (c.halfSteps) say('halfSteps', false, 'Half steps: new, returning, under 18 or over 60.');
  const operated = operatedSide(c.intake.past);
  if (operated)
    say(
      'operated',
      true,
      `An operated or replaced joint (${operated.words}): half steps, and a clinician’s clearance.`,
    );
  if (back >= 20)
    say(
      'plates',
      true,
      'Plates that move the cleat so far raise the stack by about 3 mm: raise the saddle by as much. Never drill a shoe.',
    );
  if (keys.has('saddleUp') || keys.has('longerPost') || keys.has('saddleBack') || keys.has('saddleTilt'))
    say(
      'post',
      false,
      'Seatpost: minimum insertion and maximum extension marks; maker’s torque, carbon paste where it belongs.',
    );
  if (keys.has('hands') || keys.has('barWidth'))
    say(
      'front',
      true,
      'Stem and steerer to the maker’s torque; bar straight, brakes reachable, toe overlap pointed out, before riding.',
    );
  if (keys.has('cleatBack') || keys.has('stance') || keys.has('heelOut') || keys.has('shim'))
    say('cleats', false, 'Cleat bolts again after the first ride; one pedal washer only.');
  if (keys.size > 0)
    say(
      'trial',
      false,
      'Trainer fixed and level; someone next to the rider in hands-off tests; the rider may decline any test.',
    );
  return out;
}

/** Advice off the bike: to a colleague, and to the rider. */
export interface Advice {
  words: string;
  toRider: string;
}

/** What is noted of a foot or a shoe, to its owner. */
const toOwner = (words: string): string =>
  words.replace(
    /^(Left|Right) (foot|shoe) /,
    (_, side: string, what: string) => `Your ${side.toLowerCase()} ${what} is `,
  );

/** A last is usually some 37 to 38 % as wide as it is long (own rule of thumb from size tables); beyond 2 % of that it is reported. */
function shoeWidth({ body }: Pick<PlanCase, 'body'>): Advice[] {
  const [width, loaded, plain] = [
    pair(body, 'footWidth'),
    pair(body, 'footLengthLoaded'),
    pair(body, 'footLength'),
  ];
  const shares = (['left', 'right'] as const).flatMap((side) => {
    const long = loaded[side] ?? plain[side];
    const wide = width[side];
    return wide !== null && long !== null ? [wide / long] : [];
  });
  if (shares.length === 0) return [];
  const most = Math.max(...shares);
  if (most >= 0.395)
    return [
      {
        words: 'Feet wide for their length: a wide last, rather than a longer shoe.',
        toRider:
          'Your feet are wide for their length: look for a shoe with a wide last rather than a longer one.',
      },
    ];
  return most <= 0.355
    ? [
        {
          words: 'Feet slim for their length: a narrow last, so that the heel stays put.',
          toRider: 'Your feet are slim for their length: a shoe with a narrow last holds the heel.',
        },
      ]
    : [];
}

/** Advice that moves nothing on the bike: shoes, crank, stretching (handbook: rules, starting estimates, body tests). */
export function adviceFor(c: Pick<PlanCase, 'intake' | 'body' | 'bike' | 'measures'>): Advice[] {
  const out = [
    ...shoeAdvice(c.body, c.bike).notes.map((words) => ({ words, toRider: toOwner(words) })),
    ...shoeWidth(c),
  ];
  const inseam = single(c.body, 'inseam');
  const crank = c.bike.crank.lengthMm;
  const hip = c.measures.find((m) => m.key === 'hipAngleMinDeg');
  const flexion = worse(c.body, 'hipFlexion', 'least');
  if (inseam !== null && crank !== null) {
    const [from, to] = crankRangeMm(inseam);
    const closes = (hip !== undefined && isLow(hip.verdict)) || (flexion !== null && flexion < 110);
    const evidence = [
      hip !== undefined && isLow(hip.verdict)
        ? `the hip closes to ${Math.round(hip.value)}° in the film`
        : null,
      flexion !== null && flexion < 110 ? `hip flexion ${flexion}° on the table` : null,
      crank > to ? `${crank} mm is over the ${from} to ${to} mm of this inseam` : null,
    ].filter((v) => v !== null);
    if (closes || crank > to)
      out.push({
        words: `Crank: ${evidence.join('; ')}. A shorter one gains twice its difference at the top.`,
        toRider:
          'Shorter cranks would give your hips more room at the top of the stroke: worth trying when cranks are next changed.',
      });
  }
  const raise = worse(c.body, 'straightLegRaise', 'least');
  if (raise !== null && raise < 60)
    out.push({
      words: `Straight-leg raise ${raise}°: hamstring stretching, then look at the bands again.`,
      toRider:
        'Stretch the backs of your thighs, a little every other day: with more length there, reaching down to the bar gets easier.',
    });
  return out;
}
