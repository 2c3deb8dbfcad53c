import type { LegSide, Moves } from './controls.ts';
import { saddleWidths, barWidthMm, legLength, stanceTendency, type Posture } from '../body/estimates.ts';
import { pair, single } from '../body/tests.ts';
import type { Part } from '../bike/parts.ts';
import { complaintName, openComplaints, type Complaint, type RegionKey } from '../intake/intake.ts';
import type { SuspectsOf } from '../suspects/suspects.ts';
import type { CaseFile } from '../suspects/evidence.ts';
import type { SuspectKey } from '../suspects/suspectRules.ts';

/** Where schools differ on what to do; the fitter picks (handbook: the job, schools). */
export interface Schools {
  knee: 'dynamic' | 'static';
  foreAft: 'plumb' | 'balance';
  cleat: 'level' | 'behind' | 'between' | 'midfoot';
  kneePath: 'stance' | 'wedge';
  saddleWidth: 'support' | 'overall';
}
export const USUAL_SCHOOLS: Schools = {
  knee: 'dynamic',
  foreAft: 'plumb',
  cleat: 'behind',
  kneePath: 'stance',
  saddleWidth: 'overall',
};

/** Spindle behind the first metatarsal head by school, mm: from, to (own reading of the handbook's words; a mid-foot plate goes 35 mm and more). */
export const CLEAT_BAND_MM: Record<Schools['cleat'], readonly [number, number]> = {
  level: [-2, 4],
  behind: [7, 13],
  between: [4, 10],
  midfoot: [30, 45],
};

/** Something to be moved that no angle's band asks for: a fault of the bike, a complaint's likely cause, a school. */
export interface Proposal {
  key: string;
  moves: Moves;
  why: string[];
  risk: string[];
  check: string;
  /** Things that this cures and that need no line of their own. */
  vanishes: string[];
  /** What else may be done instead. */
  instead: string | null;
}

export interface ProposalCase extends CaseFile {
  schools: Schools;
  suspects: readonly SuspectsOf[];
  parts: readonly Part[];
  /** Left less right of the knee at its straightest, and what it is sure to; null unless both legs were filmed. */
  kneeApart: { byDeg: number; sure: boolean } | null;
}

const SIDES: readonly LegSide[] = ['left', 'right'];

/** The complaints on which a suspect is raised by this visit's evidence, strongest first. */
function raisedBy(c: ProposalCase, key: SuspectKey): { complaint: Complaint; why: string }[] {
  return c.suspects.flatMap((of) => {
    const s = of.suspects.find((q) => q.key === key);
    return s && s.score > 0 ? [{ complaint: of.complaint, why: `${of.name}: ${s.for.join('; ')}` }] : [];
  });
}

const proposal = (p: Partial<Proposal> & Pick<Proposal, 'key' | 'moves' | 'why' | 'check'>): Proposal => ({
  risk: [],
  vanishes: [],
  instead: null,
  ...p,
});

/** Every proposal that the evidence asks for, feet first (handbook: rules). */
export function proposals(c: ProposalCase): Proposal[] {
  return [
    ...cleats(c),
    ...rotation(c),
    ...wedges(c),
    ...stance(c),
    ...legs(c),
    ...tilt(c),
    ...saddleChoice(c),
    ...rolled(c),
    ...bars(c),
  ];
}

/** The cleat's place by school, where a complaint, a fault or an unlike pair asks for it: never for its own sake. */
function cleats(c: ProposalCase): Proposal[] {
  const { left, right } = c.bike.feet;
  const [low, high] = CLEAT_BAND_MM[c.schools.cleat];
  const raised = raisedBy(c, 'cleatForward');
  const aim = Math.round((low + high) / 2);
  const apart =
    left.cleatBehindMm !== null && right.cleatBehindMm !== null
      ? Math.abs(left.cleatBehindMm - right.cleatBehindMm)
      : 0;
  const why: string[] = [];
  const moves: Moves = {};
  for (const side of SIDES) {
    const at = c.bike.feet[side].cleatBehindMm;
    if (at === null) continue;
    const wrong = at < low;
    const other = c.bike.feet[side === 'left' ? 'right' : 'left'].cleatBehindMm;
    // Of an unlike pair the one further from the school's place moves to where the other stands, or to the place itself.
    const odd = apart >= 3 && other !== null && Math.abs(at - aim) > Math.abs(other - aim);
    // Where neither of an unlike pair stands well, both go to the school's place.
    const withIt = apart >= 3 && wrong;
    if (!withIt && !(wrong && (raised.length > 0 || at < -2)) && !odd && c.schools.cleat !== 'midfoot')
      continue;
    const to = odd && other >= low && other <= high ? other : aim;
    if (to === at) continue;
    moves[`cleatBack.${side}`] = to - at;
  }
  if (Object.keys(moves).length === 0) return [];
  // Moving one may not leave a pair that is unlike: then its partner goes along.
  for (const side of SIDES) {
    const other: LegSide = side === 'left' ? 'right' : 'left';
    const [at, there] = [c.bike.feet[side].cleatBehindMm, c.bike.feet[other].cleatBehindMm];
    const by = moves[`cleatBack.${other}`];
    if (at === null || there === null || by === undefined || moves[`cleatBack.${side}`] !== undefined)
      continue;
    if (Math.abs(there + by - at) >= 3) moves[`cleatBack.${side}`] = there + by - at;
  }
  why.push(...raised.map((r) => r.why));
  if (apart >= 3) why.push(`cleats ${Math.round(apart)} mm apart fore and aft`);
  if (Math.min(left.cleatBehindMm ?? 99, right.cleatBehindMm ?? 99) < -2)
    why.push('the spindle lies ahead of the first metatarsal head');
  const most = Math.max(...Object.values(moves).map(Math.abs));
  return [
    proposal({
      key: 'cleatBack',
      moves,
      why,
      risk: [
        ...(c.schools.cleat === 'midfoot'
          ? [
              'Mid-foot plates raise the stack by about 3 mm and bring the toe nearer the wheel: look at the toe overlap, and at a shorter crank.',
            ]
          : []),
        'Cleat bolts to the maker’s torque; again after the first ride.',
      ],
      check: `float test, then ride: ${most > 3 ? 'in steps of 2–3 mm' : 'in one step'}, calf and forefoot`,
    }),
  ];
}

function rotation(c: ProposalCase): Proposal[] {
  const raised = raisedBy(c, 'cleatRotation');
  const { left, right } = c.bike.feet;
  if (raised.length === 0 || left.heelOutDeg === null || right.heelOutDeg === null) return [];
  // The foot that hurts is turned towards its partner by half, and the float test decides the rest.
  const hurts = raised[0].complaint.side;
  const side: LegSide =
    hurts === 'left' || hurts === 'right' ? hurts : left.heelOutDeg < right.heelOutDeg ? 'left' : 'right';
  const other = side === 'left' ? right.heelOutDeg : left.heelOutDeg;
  const by = Math.round((other - c.bike.feet[side].heelOutDeg!) / 2);
  if (by === 0) return [];
  return [
    proposal({
      key: 'heelOut',
      moves: { [`heelOut.${side}`]: by },
      why: raised.map((r) => r.why),
      check: 'float test: heel in and out before the stop, about equal; heel clear of crank and stay',
    }),
  ];
}

/** The school of wedges: 1.5° under the foot whose forefoot tilts, where a knee’s complaint or path asks for it. */
function wedges(c: ProposalCase): Proposal[] {
  if (c.schools.kneePath !== 'wedge') return [];
  const raised = raisedBy(c, 'forefootTilt');
  const swings = c.measures.find((m) => m.key === 'kneePathWidthMm')?.verdict === 'high';
  if (raised.length === 0 && !swings) return [];
  const tilt = pair(c.body, 'forefootTilt');
  const moves: Moves = {};
  for (const side of SIDES) {
    const at = tilt[side];
    if (at !== null && Math.abs(at) >= 8 && c.bike.feet[side].wedgeDeg === 0)
      moves[`wedge.${side}`] = Math.sign(at) * WEDGE_DEG;
  }
  if (Object.keys(moves).length === 0) return [];
  return [
    proposal({
      key: 'wedge',
      moves,
      why: [...raised.map((r) => r.why), ...(swings ? ['the knee swings wide in the film from ahead'] : [])],
      risk: ['After the arch is supported; one wedge at a time.'],
      check: 'knee path from the front, and pressure under the foot',
      instead: 'or a wider stance first',
    }),
  ];
}

/** One forefoot wedge, as they are sold. */
const WEDGE_DEG = 1.5;

/** Stance: cleat, then washer, then axle; 2 mm a side a step, by 4 mm where the cleat’s slots give it. */
function stance(c: ProposalCase): Proposal[] {
  const out: Proposal[] = [];
  const { left, right } = c.resolved.stanceMm;
  if (left !== null && right !== null && Math.abs(left - right) >= 4) {
    // The foot that stands off the pair's place by its own cleat or washer goes to its partner's.
    const odd: LegSide = left < right ? 'left' : 'right';
    const by = Math.round(Math.abs(left - right));
    const cleat = c.bike.feet[odd].cleatOutwardMm ?? 0;
    const room = Math.min(by, cleat + 5);
    out.push(
      proposal({
        key: 'stanceEven',
        moves: { [`cleatOut.${odd}`]: -room },
        why: [`feet ${by} mm unevenly placed about the middle`],
        check: 'heel clear of the crank; knee path from the front',
      }),
    );
    return out;
  }
  const narrow = raisedBy(c, 'stanceNarrow');
  const wide = raisedBy(c, 'stanceWide');
  const tends = stanceTendency(c.body).tends;
  const way = narrow.length > 0 && tends !== 'narrower' ? 1 : wide.length > 0 && tends !== 'wider' ? -1 : 0;
  if (way === 0) return out;
  const why = (way > 0 ? narrow : wide).map((r) => r.why);
  const wanted = 4;
  const moves: Moves = {};
  for (const side of SIDES) {
    const cleat = c.bike.feet[side].cleatOutwardMm;
    const room = cleat === null ? 2 : way > 0 ? cleat + 5 : 5 - cleat;
    const byCleat = Math.min(wanted, Math.max(0, room));
    if (byCleat > 0) moves[`cleatOut.${side}`] = -way * byCleat;
    if (way > 0 && wanted - byCleat >= 1.5 && c.bike.feet[side].washers === 0) moves[`washers.${side}`] = 1;
  }
  out.push(
    proposal({
      key: 'stance',
      moves,
      why,
      risk: ['One washer only: the thread must engage.'],
      check: 'in steps of 2 mm a side; knee path from the front, and the foot’s outer edge',
    }),
  );
  return out;
}

/** A true difference that shows on the bike: about half of it, under the shorter leg. */
function legs(c: ProposalCase): Proposal[] {
  const l = legLength(c.body);
  if (l.longer === null || !c.kneeApart?.sure) return [];
  const shorter: LegSide = l.longer === 'left' ? 'right' : 'left';
  // The shorter leg is the straighter one on the bike: left less right below nothing means the left is straighter.
  const shows = shorter === 'left' ? c.kneeApart.byDeg < 0 : c.kneeApart.byDeg > 0;
  if (!shows) return [];
  // What a shim makes up for already counts: the rest is halved again, never filled at once.
  const by = Math.round((l.differenceMm - c.bike.feet[shorter].shimMm) / 2);
  if (by < 1) return [];
  return [
    proposal({
      key: 'shim',
      moves: { [`shim.${shorter}`]: by },
      why: [
        `${l.longer} leg ${Math.round(l.differenceMm)} mm longer on the table`,
        `and it shows on the bike: the knees ${Math.abs(c.kneeApart.byDeg).toFixed(1)}° apart at their straightest`,
      ],
      risk: [
        ...(l.refer ? ['Over 6 mm of true difference: a clinician should see it first.'] : []),
        'About half of the difference, never all at once.',
      ],
      check: 'a week of easy rides; both sides filmed again',
    }),
  ];
}

function tilt(c: ProposalCase): Proposal[] {
  const at = c.bike.saddle.tiltDeg;
  if (at === null) return [];
  const raised = at < 0 ? raisedBy(c, 'noseDown') : [];
  if (Math.abs(at) <= 3 && raised.length === 0) return [];
  const to = at < 0 ? -1 : 1;
  return [
    proposal({
      key: 'saddleTilt',
      moves: { saddleTilt: to - at },
      why: [
        `saddle ${Math.abs(at)}° ${at < 0 ? 'nose-down' : 'nose-up'}: more than level by 2° is nearly always hiding something`,
        ...raised.map((r) => r.why),
      ],
      check: 'in steps of 1°; does the rider still slide, and where do the hands carry?',
      vanishes: at < 0 ? ['sliding forward on to the bar'] : [],
    }),
  ];
}

const postureOf = (c: ProposalCase): Posture =>
  c.intake.discipline === 'city' ? 'upright' : c.intake.discipline === 'timeTrial' ? 'low' : 'middle';

/** A saddle from the bin, where width or shape is a raised suspect (handbook: saddle width by school and posture). */
function saddleChoice(c: ProposalCase): Proposal[] {
  const raised = raisedBy(c, 'saddleNarrow');
  const sit = single(c.body, 'sitBones');
  const now = c.bike.saddle.widthMm;
  if (raised.length === 0 || sit === null || now === null) return [];
  const [support, overall] = saddleWidths(sit, postureOf(c));
  // The bin knows overall widths; a supportive part is about 25 mm less.
  const [from, to] =
    c.schools.saddleWidth === 'overall'
      ? [overall.fromMm, overall.toMm]
      : [support.fromMm + 25, support.toMm + 25];
  const fit = c.parts
    .filter(
      (p) => p.kind === 'saddle' && p.count > 0 && p.widthMm !== null && p.widthMm >= from && p.widthMm <= to,
    )
    .sort((a, b) => Math.abs(a.widthMm! - (from + to) / 2) - Math.abs(b.widthMm! - (from + to) / 2))[0];
  const width = fit?.widthMm ?? Math.round((from + to) / 2);
  if (width === now) return [];
  return [
    proposal({
      key: 'saddleWidth',
      moves: { saddleWidth: width - now },
      why: [
        `sit bones ${sit} mm ask for ${from} to ${to} mm overall; the saddle has ${now} mm`,
        ...raised.map((r) => r.why),
        fit ? `${fit.name} is in the bin` : 'none of this width is in the bin',
      ],
      risk: ['Another saddle sits at another height: set height and setback again at its 80 mm width.'],
      check: 'sit bones on the flat part, for a ride of an hour',
    }),
  ];
}

function rolled(c: ProposalCase): Proposal[] {
  const at = c.bike.bar.rotationDeg;
  if (at === null || Math.abs(at) < 8) return [];
  return [
    proposal({
      key: 'barRotation',
      moves: { barRotation: (at > 0 ? 3 : -3) - at },
      why: [`bar rolled ${at > 0 ? 'up' : 'down'} ${Math.abs(at)}°`],
      check: 'wrist straight on the hoods; a smooth line from bar to hood; brakes reachable',
    }),
  ];
}

/** Bar width from the shoulders, only where hands, neck or the complaint's suspects ask for the cockpit at all. */
function bars(c: ProposalCase): Proposal[] {
  const shoulder = single(c.body, 'shoulderWidth');
  const now = c.bike.bar.widthMm;
  const drop = c.bike.bar.dropMm !== null;
  const cares: readonly RegionKey[] = ['hands', 'neck'];
  const hurts = openComplaints(c.intake.complaints).filter((q) => cares.includes(q.region));
  if (shoulder === null || now === null || !drop || hurts.length === 0) return [];
  const [from, to] = barWidthMm(shoulder);
  if (now >= from && now <= to) return [];
  // Bars come in steps of 20 mm.
  const aim = now > to ? Math.floor(to / 20) * 20 : Math.ceil(from / 20) * 20;
  const inBin = c.parts
    .filter(
      (p) => p.kind === 'bar' && p.count > 0 && p.widthMm !== null && p.widthMm >= from && p.widthMm <= to,
    )
    .sort((a, b) => Math.abs(a.widthMm! - shoulder) - Math.abs(b.widthMm! - shoulder))[0];
  const width = inBin?.widthMm ?? aim;
  return width === now
    ? []
    : [
        proposal({
          key: 'barWidth',
          moves: { barWidth: width - now },
          why: [
            `shoulders ${shoulder} mm ask for a bar of ${from} to ${to} mm; this one has ${now} mm`,
            ...hurts.map(complaintName),
            inBin ? `${inBin.name} is in the bin` : 'none of this width is in the bin',
          ],
          check: 'steering at walking pace; chest free',
        }),
      ];
}

/** Whether a shorter crank is to be thought of: the hip closes or pinches, or the crank is over the legs' range. */
export function crankInDoubt(c: ProposalCase): boolean {
  const closes = c.measures.some((m) => m.key === 'hipAngleMinDeg' && m.verdict === 'low');
  const bends = c.measures.some((m) => m.key === 'kneeFlexionMaxDeg' && m.verdict === 'high');
  return closes || bends || raisedBy(c, 'crankLong').length > 0;
}
