import { dayMeant } from '../units/day.ts';
import { BLANK_INTAKE_3, UNMEASURED_BIKE_3 } from './blanks3.ts';

/** The kinds of record that are stored and exported. */
export type RecordKind = 'rider' | 'bike' | 'session' | 'studio' | 'parts' | 'protocols';

/** The shape each kind has today. */
export const RECORD_VERSIONS: Record<RecordKind, number> = {
  rider: 4,
  bike: 1,
  session: 15,
  studio: 7,
  parts: 2,
  protocols: 1,
};

interface Migration {
  /** The version it makes. */
  to: number;
  name: string;
  /** Takes a record of the version before, of which nothing is known for sure, and returns the newer one without changing the old. */
  change: (record: Record<string, unknown>) => Record<string, unknown>;
}

const isObject = (v: unknown): v is Record<string, unknown> =>
  typeof v === 'object' && v !== null && !Array.isArray(v);

/** Whether a take's front axle was pointed out to the left of the rear one: the side without the chain. */
function facesLeft(take: Record<string, unknown>): boolean {
  const axles = isObject(take.axles) ? take.axles : {};
  const [rear, front] = [axles.rear, axles.front];
  return isObject(rear) && isObject(front) && Number(front.x) < Number(rear.x);
}

/** A take of the time when nobody watched the camera and every joint was marked. */
const marked = (take: Record<string, unknown>): Record<string, unknown> => ({
  ...take,
  cameraPath: null,
  tracking: isObject(take.tracking) ? { ...take.tracking, estimated: false } : take.tracking,
});

/** Small steps from each shape to the next, oldest first. What was once released is never edited. */
export const MIGRATIONS: Record<RecordKind, readonly Migration[]> = {
  parts: [
    { to: 2, name: 'deleted parts lie in the trash for a while', change: (p) => ({ ...p, removed: [] }) },
  ],
  protocols: [],
  bike: [],
  rider: [
    {
      to: 2,
      name: 'a deleted rider lies in the trash since a day',
      change: (r) => ({ ...r, deletedIso: null }),
    },
    {
      to: 3,
      name: 'how this rider answers a change is learned, and kept',
      change: (r) => ({ ...r, habits: null }),
    },
    {
      to: 4,
      name: 'a rider can be reached',
      change: (r) => ({ ...r, email: '', phone: '' }),
    },
  ],
  studio: [
    {
      to: 2,
      name: 'lengths and masses have a unit',
      change: (s) => ({ ...s, lengthUnit: 'mm', massUnit: 'kg' }),
    },
    {
      to: 3,
      name: 'the studio has a name, a fitter and a way to reach them',
      change: (s) => ({ ...s, name: '', fitter: '', contact: '' }),
    },
    {
      to: 4,
      name: 'the studio chooses the figures of the glance',
      change: (s) => ({
        ...s,
        glance: ['kneeFlexionMinDeg', 'hipAngleMinDeg', 'backAngleDeg', 'footPitch180Deg'],
      }),
    },
    {
      to: 5,
      name: 'the studio has its paper, its way to write a day, and the protocol that new visits begin with',
      change: (s) => ({ ...s, paper: 'A4', dayFormat: 'month-name', protocolId: 'long-distance' }),
    },
    { to: 6, name: 'prices have a currency', change: (s) => ({ ...s, currency: 'EUR' }) },
    {
      to: 7,
      name: 'a presenter’s remote has keys of its own',
      change: (s) => ({ ...s, remote: { next: '', back: '' } }),
    },
  ],
  session: [
    {
      to: 2,
      name: 'a take holds the rims of the wheels beside their axles',
      change: (s) => (isObject(s.take) ? { ...s, take: { ...s.take, rims: {} } } : s),
    },
    {
      to: 3,
      name: 'intake, body, and the bike as found in place of three of its numbers',
      change: ({ bike, ...s }) => {
        const old = isObject(bike) ? bike : {};
        return {
          ...s,
          intake: BLANK_INTAKE_3,
          body: { results: {}, adjustmentsOff: [] },
          asFound: {
            ...UNMEASURED_BIKE_3,
            frame: {
              ...UNMEASURED_BIKE_3.frame,
              wheelbaseMm: old.wheelbaseMm ?? null,
              seatAngleDeg: old.seatTubeDeg ?? 73,
            },
            crank: { ...UNMEASURED_BIKE_3.crank, lengthMm: old.crankMm ?? null },
          },
        };
      },
    },
    {
      to: 4,
      name: 'a deleted visit lies in the trash since a day',
      change: (s) => ({ ...s, deletedIso: null }),
    },
    {
      to: 5,
      name: 'a visit is about one of the rider’s bikes, and holds what was moved, planned and agreed; complaints can be gone',
      change: (s) => ({
        ...s,
        // One bike for each rider so far: its id follows from the rider's, so that all visits agree on it.
        bikeId: `of-${String(s.riderId)}`.slice(0, 40),
        intake: isObject(s.intake)
          ? {
              ...s.intake,
              complaints: Array.isArray(s.intake.complaints)
                ? s.intake.complaints.map((c: unknown) => (isObject(c) ? { ...c, goneIso: null } : c))
                : s.intake.complaints,
            }
          : s.intake,
        asFound: isObject(s.asFound)
          ? {
              ...s.asFound,
              levers: isObject(s.asFound.levers)
                ? { ...s.asFound.levers, fromEndMm: null }
                : s.asFound.levers,
            }
          : s.asFound,
        current: null,
        final: null,
        changes: [],
        plan: null,
        followUps: [],
      }),
    },
    {
      to: 6,
      name: 'a visit has several takes, each with its side, position and effort, and with corrections',
      change: ({ take, ...s }) => {
        const kept = isObject(take)
          ? [
              {
                ...take,
                view: facesLeft(take) ? 'nonDrive' : 'drive',
                position: null,
                effort: null,
                effortW: null,
                note: '',
                trim: null,
                corrections: [],
                hidden: [],
              },
            ]
          : [];
        return { ...s, takes: kept, takeId: kept.length && isObject(take) ? take.id : null };
      },
    },
    {
      to: 7,
      name: 'films from the front and rear, cadence and partner of a take, goniometer readings, the protocol’s own version',
      change: (s) => ({
        ...s,
        protocol: null,
        statics: Object.fromEntries(
          [
            'kneeFlexionDeg',
            'hipAngleDeg',
            'ankleAngleDeg',
            'backAngleDeg',
            'shoulderAngleDeg',
            'elbowFlexionDeg',
          ].map((key) => [key, { left: null, right: null, both: null }]),
        ),
        takes: Array.isArray(s.takes)
          ? s.takes.map((t: unknown) =>
              isObject(t)
                ? {
                    ...t,
                    cadenceRpm: null,
                    pairWith: null,
                    width: { of: 'bar', mm: null, right: null, left: null },
                  }
                : t,
            )
          : s.takes,
      }),
    },
    {
      to: 8,
      name: 'a plan of lines instead of saddle heights, and what is being thought of',
      change: ({ triedSaddleMm, ...s }) => ({
        ...s,
        plan: isObject(s.plan) ? planOfLines(s.plan) : s.plan,
        planning: {
          schools: {
            knee: 'dynamic',
            foreAft: 'plumb',
            cleat: 'behind',
            kneePath: 'stance',
            saddleWidth: 'overall',
          },
          decisions: [],
          order: [],
          trying: typeof triedSaddleMm === 'number' ? { saddleUp: triedSaddleMm } : null,
          variants: [],
          acknowledged: [],
          onBike: {},
          ladders: {},
        },
      }),
    },
    {
      to: 9,
      name: 'rounds, what was tried and read after each change, what is handed over, and the visit before; a frame’s seat tube',
      change: (s) => ({
        ...s,
        asFound: withSeatTube(s.asFound),
        current: withSeatTube(s.current),
        final: withSeatTube(s.final),
        followsId: null,
        plan: isObject(s.plan) ? { ...s.plan, round: 1 } : s.plan,
        earlierPlans: [],
        changes: Array.isArray(s.changes)
          ? s.changes.map((c: unknown) => (isObject(c) ? triedChange(c) : c))
          : s.changes,
        takes: Array.isArray(s.takes)
          ? s.takes.map((t: unknown) =>
              isObject(t) ? { ...t, round: 1, setup: null, devices: { trainer: null, mat: null } } : t,
            )
          : s.takes,
        handOver: { paper: 'A4', texts: {}, leftOut: [], findings: [], ticked: [], other: null },
      }),
    },
    {
      to: 10,
      name: 'a complaint in the rider’s words, the steerer above the stem, answers to the plan’s questions, the first set-up filmed twice',
      change: (s) => ({
        ...s,
        intake: isObject(s.intake)
          ? { ...s.intake, complaints: eachObject(s.intake.complaints, (c) => ({ ...c, words: '' })) }
          : s.intake,
        asFound: withSteerer(s.asFound),
        current: withSteerer(s.current),
        final: withSteerer(s.final),
        plan: withTitles(s.plan),
        earlierPlans: eachObject(s.earlierPlans, withTitles),
        takes: eachObject(s.takes, (t) => ({ ...t, setup: withSteerer(t.setup), baselineOf: null })),
        planning: isObject(s.planning)
          ? {
              ...s.planning,
              answers: {},
              decisions: eachObject(s.planning.decisions, (d) => ({ ...d, p: null })),
            }
          : s.planning,
      }),
    },
    {
      to: 11,
      name: 'removed films lie in the trash for a while',
      change: (s) => ({ ...s, removedTakes: [] }),
    },
    {
      to: 12,
      name: 'days are days of the calendar',
      change: (s) => ({
        ...s,
        followUps: eachObject(s.followUps, (f) => ({ ...f, due: realDay(f.due) ?? f.due })),
        intake: isObject(s.intake) ? { ...s.intake, eventDate: realDay(s.intake.eventDate) } : s.intake,
      }),
    },
    {
      to: 13,
      name: 'red flags are asked about, and a complaint of the last visit is asked about anew',
      change: (session) => {
        if (!isObject(session.intake)) return session;
        const { intake } = session;
        const flags = Array.isArray(intake.redFlags) && intake.redFlags.length > 0;
        // Where a plan was kept or a bike handed over they had been asked about.
        const wasScreened = flags || Boolean(session.plan) || Boolean(session.final);
        return {
          ...session,
          intake: {
            ...intake,
            flagsAskedIso: wasScreened ? session.startedIso : null,
            complaints: eachObject(intake.complaints, (c) => ({ ...c, carried: false })),
          },
        };
      },
    },
    {
      to: 14,
      name: 'how the camera moved is kept with its film, and whether its joints are estimated',
      change: (s) => ({
        ...s,
        takes: eachObject(s.takes, marked),
        removedTakes: eachObject(s.removedTakes, (r) => ({
          ...r,
          take: isObject(r.take) ? marked(r.take) : r.take,
        })),
      }),
    },
    {
      to: 15,
      name: 'a change may have been measured while the camera ran',
      change: (s) => ({ ...s, changes: eachObject(s.changes, (c) => ({ ...c, measured: null })) }),
    },
  ],
};

const realDay = (day: unknown): string | null => (typeof day === 'string' ? dayMeant(day) : null);

const withSeatTube = (setup: unknown): unknown =>
  isObject(setup) && isObject(setup.frame)
    ? { ...setup, frame: { ...setup.frame, seatTubeMm: null } }
    : setup;

/** Every object of a list changed; anything else as it is. */
const eachObject = (list: unknown, change: (o: Record<string, unknown>) => unknown): unknown =>
  Array.isArray(list) ? list.map((o: unknown) => (isObject(o) ? change(o) : o)) : list;

/** Lines of a plan may be something to try that moves nothing. */
const withTitles = (plan: unknown): unknown =>
  isObject(plan) ? { ...plan, lines: eachObject(plan.lines, (l) => ({ ...l, title: null })) } : plan;

const withSteerer = (setup: unknown): unknown =>
  isObject(setup) && isObject(setup.stem)
    ? { ...setup, stem: { ...setup.stem, steererAboveMm: null, onePiece: false } }
    : setup;

/** A change before version 9 had only a word on it: easier or harder. */
const triedChange = (c: Record<string, unknown>): Record<string, unknown> => ({
  ...c,
  word: c.word === 'easier' ? 'better' : c.word === 'harder' ? 'worse' : c.word,
  round: 1,
  lineKey: null,
  felt: [],
  note: '',
  tests: {},
  ridden: {
    powerW: null,
    cadenceRpm: null,
    leftPercent: null,
    saddleLeftPercent: null,
    saddleFrontPercent: null,
    saddlePeakKPa: null,
  },
});

/** Steps of the saddle’s height as lines: the only ones that a plan before version 8 could hold. */
function planOfLines({ steps, ...plan }: Record<string, unknown>): Record<string, unknown> {
  return {
    ...plan,
    lines: (Array.isArray(steps) ? steps : []).filter(isObject).map((step) => ({
      key: 'saddleUp',
      moves: { saddleUp: step.byMm },
      today: { saddleUp: step.todayMm },
      why: [],
      check: '',
    })),
  };
}

/**
 * Brings a record up to today's shape. A record of today or of a newer version comes back as it is.
 * @returns a new record; the one given is never changed
 */
export function upToDate(kind: RecordKind, record: Record<string, unknown>): Record<string, unknown> {
  let now = record;
  for (const migration of MIGRATIONS[kind]) {
    if (typeof now.version === 'number' && now.version === migration.to - 1)
      now = { ...migration.change(now), version: migration.to };
  }
  return now;
}
