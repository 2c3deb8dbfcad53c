import { readFileSync } from 'node:fs';
import { DEMO_PARTS } from '../../app/demo/parts.ts';
import { parseTracksCsv } from '../../core/formats/tracksCsv.ts';
import { NO_HAND_OVER } from '../../core/records/handOver.ts';
import { NO_PLANNING } from '../../core/plan/terms/planning.ts';
import { NO_STATICS } from '../../core/body/statics.ts';
import { RECORD_VERSIONS } from '../../core/records/migrations.ts';
import { readOptions } from '../../core/visit/readOptions.ts';
import { moved, putBack, setupNow } from '../../core/visit/setups.ts';
import type { FitSession, Rider, Take } from '../../core/records/types.ts';
import { NOT_RIDDEN } from '../../core/kinematics/ridden.ts';
import type { Change, RiderWord } from '../../core/plan/terms/change.ts';
import type { Plan } from '../../core/plan/controls/keptPlan.ts';
import { nextVisit, NOTHING_DONE } from '../../core/visit/visits.ts';
import { learnHabits } from '../../core/model/learn.ts';
import { effectsOf, type Moves } from '../../core/plan/controls/controls.ts';
import { preparedOnce } from '../../core/model/forecast.ts';
import { filmedTake, visitCase } from '../../core/visit/visitCase.ts';
import { asFindings } from '../../core/protocol/findings.ts';
import { prescribe } from '../../core/plan/prescribe.ts';
import { keptLines, type Decision } from '../../core/plan/terms/plan.ts';
import { USUAL_HABITS } from '../../core/model/bodyModel.ts';
import { readTracks, type Reading } from '../../core/kinematics/read.ts';
import { refilmed } from '../../core/visit/outcome.ts';
import { movesBetween, valuesOf } from '../../core/visit/progress.ts';
import { roundSetup } from '../../core/visit/rounds.ts';
import { riddenOf, summariseMat, summariseTrainer, type TakeDevices } from '../../core/kinematics/devices.ts';
import { MAT_CELL_MM, MAT_HZ, matAt, TRAINER_HZ, trainerAt, type Riding } from '../../sim/devices.ts';
import type { TrialTests } from '../../core/plan/terms/trialTests.ts';
import { DOSSIERS } from './dossiers.ts';
import { MAREN_AGAIN } from './rounds.ts';
import { CAST } from '../../sim/cast.ts';

/** Maren's whole story: a first visit of two rounds, handed over, and the visit after six weeks; put together by the application's own functions. */
export interface Story {
  rider: Pick<Rider, 'habits'>;
  sessions: FitSession[];
}

const FIRST = '2026-10-07';
const SECOND = '2026-11-23';

function readingFor(session: FitSession, take: Take): Reading {
  const parsed = parseTracksCsv(
    readFileSync(`public/demo/${take.id.replace(/-take$/, '')}.tracks.csv`, 'utf8'),
  );
  const options = readOptions(session, take);
  if (!parsed.ok || !options) throw new Error(`${take.id} can’t be read`);
  const reading = readTracks(parsed.tracks, options);
  if (!reading.ok) throw new Error(reading.detail);
  return reading;
}

/** What trainer and mat told while a film was shot. */
function devicesFor(riding: Riding, seconds = 20): TakeDevices {
  const trainer = Array.from({ length: seconds * TRAINER_HZ }, (_, i) => trainerAt(riding, i / TRAINER_HZ));
  const mat = Array.from({ length: (seconds * MAT_HZ) / 5 }, (_, i) => matAt(riding, (5 * i) / MAT_HZ));
  return {
    trainer: summariseTrainer(trainer, 'simulated trainer'),
    mat: summariseMat(mat, MAT_CELL_MM, 'simulated mat'),
  };
}

/** One step as the log has it. */
interface Step {
  moves: Moves;
  line: string | null;
  minute: number;
  word: RiderWord;
  note?: string;
  felt?: Change['felt'];
  tests?: TrialTests;
  back?: boolean;
}

export function marenStory(takes: Record<string, Take[]>): Story {
  const dossier = DOSSIERS.maren;
  const riders = [CAST.find((m) => m.id === 'maren')!, ...MAREN_AGAIN].map((m) => m.scene.rider);
  const riding = (round: 0 | 1 | 2, tiltDeg: number): Riding => ({
    rider: riders[round],
    powerW: 110,
    leftPercent: 48.5,
    massKg: 66,
    tiltDeg,
    widthMm: 148,
    sitBonesMm: 122,
    leftByMm: 0,
    seed: 11 + round,
  });
  const [first, second] = takes['maren-1'];
  const [third] = takes['maren-2'];
  const at = (day: string, minute: number): string =>
    new Date(Date.parse(`${day}T08:30:00.000Z`) + 60_000 * minute).toISOString();
  const take = (t: Take, devices: TakeDevices): Take => ({ ...t, devices });

  let session: FitSession = {
    version: RECORD_VERSIONS.session,
    id: 'maren-1',
    riderId: 'maren',
    startedIso: at(FIRST, 0),
    deletedIso: null,
    bikeId: 'maren-bike',
    followsId: null,
    protocolId: 'long-distance',
    protocol: null,
    intake: {
      ...dossier.intake,
      flagsAskedIso: at(FIRST, 11),
      filmConsent: { givenIso: at(FIRST, 12), by: 'Maren Toft' },
    },
    body: dossier.body,
    asFound: dossier.asFound,
    ...NOTHING_DONE,
    statics: NO_STATICS,
    takes: [take(first, devicesFor(riding(0, -3.5)))],
    takeId: first.id,
    planning: { ...NO_PLANNING, onBike: { ...NO_PLANNING.onBike, handsOff: 'falls' } },
  };

  /** The plan of a round with what the fitter decided, as it was kept. */
  const plan = (of: Take, decisions: Decision[], keptIso: string): { plan: Plan; reading: Reading } => {
    const reading = readingFor(session, of);
    const visit = visitCase({
      session,
      near: filmedTake(session, of, reading),
      parts: DEMO_PARTS.parts,
      round: of.round,
    });
    const made = prescribe({ ...visit.case, decisions });
    return {
      reading,
      plan: {
        keptIso,
        round: of.round,
        protocolId: session.protocolId,
        findings: asFindings(visit.measures),
        lines: keptLines(made),
      },
    };
  };

  let n = 0;
  const step = (s: Step, day: string, round: 0 | 1 | 2): void => {
    n += 1;
    const id = `maren-c${n}`;
    const values = valuesOf(setupNow(session), s.moves);
    const next = moved(session, { id, madeIso: at(day, s.minute), values, lineKey: s.line });
    if (!next) throw new Error(`Nothing moves by ${JSON.stringify(s.moves)}`);
    const tilt = next.current!.saddle.tiltDeg ?? 0;
    const ridden = riddenOf(devicesFor({ ...riding(round, tilt), seed: 40 + n }, 12));
    const changes = next.changes.map((c): Change =>
      c.id === id
        ? {
            ...c,
            word: s.word,
            note: s.note ?? '',
            felt: s.felt ?? [],
            tests: s.tests ?? {},
            ridden: s.back ? NOT_RIDDEN : ridden,
          }
        : c,
    );
    session = { ...next, changes };
    if (s.back) session = putBack(session, id, at(day, s.minute + 4))!;
  };

  // Round one: the saddle alone, within the round's limits; the reach waits for the next film.
  const decided: Decision[] = [
    { key: 'saddleTilt', state: 'accepted', moves: { saddleTilt: 2 }, reason: '', p: null },
    { key: 'saddleUp', state: 'edited', moves: { saddleUp: 9 }, reason: 'three steps of three', p: null },
    { key: 'saddleBack', state: 'edited', moves: { saddleBack: 10 }, reason: 'hands off decides', p: null },
    {
      key: 'hands',
      state: 'rejected',
      moves: { stemLength: -20 },
      reason: 'the saddle first: the stem after the next film',
      p: null,
    },
  ];
  const one = plan(first, decided, at(FIRST, 78));
  session = { ...session, planning: { ...session.planning, decisions: decided }, plan: one.plan };
  for (const s of [
    {
      moves: { saddleTilt: 1 },
      line: 'saddleTilt',
      minute: 84,
      word: 'better',
      note: 'slides less',
      felt: ['hands'],
    },
    { moves: { saddleTilt: 1 }, line: 'saddleTilt', minute: 90, word: 'better', felt: ['hands'] },
    {
      moves: { saddleUp: 3 },
      line: 'saddleUp',
      minute: 101,
      word: 'better',
      note: 'knee freer',
      felt: ['kneeFront'],
    },
    {
      moves: { saddleUp: 3 },
      line: 'saddleUp',
      minute: 106,
      word: 'better',
      felt: ['kneeFront'],
      tests: { heel: 'clear' },
    },
    {
      moves: { saddleUp: 3 },
      line: 'saddleUp',
      minute: 111,
      word: 'better',
      felt: ['kneeFront'],
      tests: { heel: 'clear' },
    },
    {
      moves: { saddleBack: 5 },
      line: 'saddleBack',
      minute: 117,
      word: 'same',
      tests: { handsOff: 'wobbles' },
    },
    {
      moves: { saddleBack: 5 },
      line: 'saddleBack',
      minute: 123,
      word: 'better',
      tests: { handsOff: 'holds' },
    },
  ] satisfies Step[])
    step(s, FIRST, 0);

  // Filmed again: the second round, with its own plan.
  session = {
    ...session,
    takes: [...session.takes, take({ ...second, setup: session.current }, devicesFor(riding(1, -1)))],
    takeId: second.id,
    earlierPlans: [session.plan!],
    plan: null,
    planning: {
      ...session.planning,
      decisions: [],
      order: [],
      trying: null,
      variants: [],
      onBike: { ...session.planning.onBike, handsOff: 'holds' },
    },
  };
  const habits = learned(session, first, one.reading, second);
  const decisions: Decision[] = [
    {
      key: 'hands',
      state: 'edited',
      moves: { stemLength: -20 },
      reason: 'two sizes nearer, for the tingling',
      p: null,
    },
    {
      key: 'saddleTilt',
      state: 'accepted',
      moves: { saddleTilt: 0.5 },
      reason: '',
      p: null,
    },
  ];
  const two = plan(second, decisions, at(FIRST, 172));
  session = { ...session, plan: two.plan, planning: { ...session.planning, decisions } };
  for (const s of [
    { moves: { saddleUp: 3 }, line: 'saddleUp', minute: 178, word: 'better', felt: ['kneeFront'] },
    {
      moves: { saddleUp: 3 },
      line: 'saddleUp',
      minute: 183,
      word: 'better',
      felt: ['kneeFront'],
      tests: { heel: 'clear' },
    },
    { moves: { saddleUp: 3 }, line: 'saddleUp', minute: 188, word: 'same', tests: { heel: 'clear' } },
    {
      moves: { saddleUp: 3 },
      line: 'saddleUp',
      minute: 193,
      word: 'worse',
      note: 'reaches for the pedal',
      back: true,
    },
    { moves: { saddleTilt: 0.5 }, line: 'saddleTilt', minute: 199, word: 'same' },
    {
      moves: { stemLength: -20 },
      line: 'hands',
      minute: 214,
      word: 'better',
      note: 'no longer reaching',
      felt: ['hands', 'neck'],
      tests: { handsOff: 'holds', oneHand: 'no', levers: 'yes' },
    },
  ] satisfies Step[])
    step(s, FIRST, 1);
  session = {
    ...session,
    final: session.current,
    handOver: { ...NO_HAND_OVER, findings: two.plan.findings, ticked: ['post', 'saddle', 'stem'] },
    followUps: [
      {
        id: 'maren-f1',
        due: '2026-10-21',
        why: 'A few rides in: a call',
        doneIso: '2026-10-21T16:05:00.000Z',
      },
      { id: 'maren-f2', due: '2026-11-25', why: 'Check, on the bike', doneIso: at(SECOND, 0) },
      { id: 'maren-f3', due: '2027-10-06', why: 'Yearly check', doneIso: null },
    ],
  };
  const visitOne = session;

  // After six weeks: what hurt then and now, filmed anew with new stickers, one small thing.
  const begun = nextVisit(visitOne, 'maren-2', at(SECOND, 0));
  session = {
    ...begun,
    intake: {
      ...begun.intake,
      changed: 'Nothing since October; some 600 km ridden on it.',
      filmConsent: { givenIso: at(SECOND, 6), by: 'Maren Toft' },
      flagsAskedIso: at(SECOND, 3),
      complaints: begun.intake.complaints.map((c) => ({
        ...c,
        carried: false,
        ...(c.id === 'm2' ? { severity: 1, onset: 'after' as const } : { goneIso: at(SECOND, 4) }),
      })),
    },
    takes: [take({ ...third, setup: null }, devicesFor({ ...riding(2, -1), powerW: 112 }))],
    takeId: third.id,
    planning: { ...NO_PLANNING, onBike: { ...NO_PLANNING.onBike, handsOff: 'holds' } },
  };
  const three = plan(
    third,
    [
      {
        key: 'barWidth',
        state: 'edited',
        moves: { barWidth: -20 },
        reason: 'the narrowest in the parts',
        p: null,
      },
    ],
    at(SECOND, 46),
  );
  session = {
    ...session,
    plan: three.plan,
    planning: {
      ...session.planning,
      decisions: [
        {
          key: 'barWidth',
          state: 'edited',
          moves: { barWidth: -20 },
          reason: 'the narrowest in the parts',
          p: null,
        },
      ],
    },
  };
  step(
    {
      moves: { barWidth: -20 },
      line: 'barWidth',
      minute: 71,
      word: 'better',
      note: 'arms hang straight',
      felt: ['hands'],
      tests: { handsOff: 'holds', oneHand: 'no', levers: 'yes' },
    },
    SECOND,
    2,
  );
  session = {
    ...session,
    final: session.current,
    handOver: { ...NO_HAND_OVER, findings: three.plan.findings, ticked: ['bar'] },
    followUps: [
      { id: 'maren-f4', due: '2027-03-22', why: 'Before the towpath days: a call', doneIso: null },
      { id: 'maren-f5', due: '2027-11-22', why: 'Yearly check', doneIso: null },
    ],
  };
  return { rider: { habits: { ...habits, learnedIso: at(FIRST, 160) } }, sessions: [visitOne, session] };
}

/** Maren's own shares, from the first film to the second, as the Trial station learns them. */
function learned(
  session: FitSession,
  first: Take,
  reading: Reading,
  second: Take,
): ReturnType<typeof learnHabits> {
  const model = filmedTake(session, first, reading).model;
  const moves = movesBetween(roundSetup(session, 1), roundSetup(session, 2));
  return learnHabits(preparedOnce(model), {
    fx: effectsOf(session.asFound, moves),
    seen: refilmed(reading, readingFor(session, second), true),
    prior: USUAL_HABITS,
  });
}
