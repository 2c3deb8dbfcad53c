import { BODY_TESTS, isAnswered, single } from '../body/bodyTests.ts';
import { filmingHeldBack, openComplaints } from '../intake/intake.ts';
import { isFrontal, needed, plainName } from '../landmarks/landmarks.ts';
import { enoughFor } from '../kinematics/standIns.ts';
import { openTake, type FitSession } from '../records/types.ts';

export interface Station {
  path: string;
  name: string;
  /** What stands there, in a word or two. */
  note: string;
  /** Whether it has what the next one needs. */
  ready: boolean;
  /** What is still missing here, in one sentence; null for nothing. */
  lacks: string | null;
}

const complaintsNote = (n: number): string =>
  n === 0 ? 'nothing hurts' : n === 1 ? '1 complaint' : `${n} complaints`;

/** How far a visit has got, as its stations tell it. */
function howFar(session: FitSession, reads: boolean | null) {
  const { asFound, intake, body } = session;
  const take = openTake(session);
  const ahead = take !== null && isFrontal(take.view);
  const across = Boolean(take?.width.right && take.width.left && take.width.mm);
  // From the front or the rear the crank's length alone gives the scale too.
  const axles = ahead
    ? across || asFound.crank.lengthMm !== null
    : Boolean(take?.axles.rear && take.axles.front && asFound.frame.wheelbaseMm);
  const wanted = needed(take?.view ?? 'drive');
  const tracked = take?.tracking.state ?? 'none';
  return {
    take,
    ahead,
    across,
    axles,
    wanted,
    unmarked: wanted.filter((k) => !take?.marks[k]),
    enough: take !== null && enoughFor(take.view, (k) => Boolean(take.marks[k])),
    tracked,
    tested: Object.values(body.results).filter(isAnswered).length,
    stop: intake.redFlags.some((f) => !f.acknowledgedIso),
    held: filmingHeldBack(intake),
    // What was undone does not stand.
    standing: session.changes.filter((c) => c.putBackIso === null).length,
    unasked: intake.flagsAskedIso === null && intake.redFlags.length === 0,
    noFigures:
      tracked === 'none'
        ? 'No figures yet: the film is not tracked.'
        : !axles
          ? 'No figures yet: the scale is missing.'
          : reads === false
            ? 'The tracks give no stroke.'
            : null,
    measured: asFound.saddle.heightMm !== null || asFound.saddle.heightToSpindleMm !== null,
  };
}

/**
 * The stations in working order, each with how far it has got.
 * @param reads whether the open take's tracks gave figures, as far as that is known
 */
// eslint-disable-next-line max-lines-per-function -- a list of eleven, one below the other
export function stationsOf(session: FitSession, reads: boolean | null = null): Station[] {
  const { takes, intake, body } = session;
  const { take, ahead, across, axles, wanted, unmarked, enough, tracked, ...got } = howFar(session, reads);
  const { tested, stop, held, standing, unasked, noFigures, measured } = got;
  const stations: (Omit<Station, 'ready'> & { ready?: boolean })[] = [
    {
      path: 'intake',
      name: 'Intake',
      note: stop
        ? 'stop: refer'
        : held
          ? 'no consent'
          : complaintsNote(openComplaints(intake.complaints).length),
      lacks: stop
        ? 'A red flag: tell the rider to see a clinician first.'
        : (held ?? (unasked ? 'Red flags were not asked about yet.' : null)),
    },
    {
      path: 'body',
      name: 'Body',
      note: tested === 0 ? 'open' : `${tested} of ${BODY_TESTS.length}`,
      lacks: single(body, 'inseam') === null ? 'Inseam is missing: the starting heights need it.' : null,
    },
    {
      path: 'bike',
      name: 'Bike',
      note: session.current ? 'moved' : measured ? 'as found' : 'open',
      lacks: measured ? null : 'Saddle height is missing.',
    },
    {
      path: 'film',
      name: 'Film',
      note: takes.length > 1 ? `${takes.length} takes` : take ? `${take.video.frames} frames` : 'no clip',
      lacks: take ? null : 'No film yet.',
    },
    {
      path: 'scale',
      name: 'Scale',
      note: !axles ? 'open' : !ahead ? 'axles set' : across ? 'width set' : 'by the crank',
      lacks: axles
        ? null
        : ahead
          ? 'A width or the crank’s length is missing.'
          : 'Axles or wheelbase are missing.',
    },
    {
      path: 'mark',
      name: 'Mark',
      note: `${wanted.length - unmarked.length} of ${wanted.length}`,
      lacks: enough ? null : `Still to mark: ${unmarked.map(plainName).join(', ')}.`,
    },
    {
      path: 'track',
      name: 'Track',
      note: tracked === 'done' ? 'whole clip' : tracked === 'stopped' ? 'a part' : 'open',
      lacks: tracked === 'none' ? 'Not tracked yet.' : null,
    },
    {
      path: 'read',
      name: 'Read',
      note:
        tracked === 'none'
          ? 'waits for tracks'
          : !axles
            ? 'waits for scale'
            : reads === false
              ? 'no stroke'
              : 'figures',
      lacks: noFigures,
    },
    {
      path: 'plan',
      name: 'Plan',
      note: session.plan ? 'kept' : noFigures === null ? 'proposed' : 'waits for figures',
      // One that is not kept yet can be looked at and tried all the same.
      ready: noFigures === null,
      lacks: noFigures ?? (session.plan ? null : 'The plan is not kept yet.'),
    },
    {
      path: 'trial',
      name: 'Trial',
      note:
        standing > 0
          ? `${standing} ${standing === 1 ? 'change' : 'changes'}`
          : session.plan
            ? session.plan.lines.length === 0
              ? 'nothing to move'
              : 'to be ridden'
            : 'waits for a plan',
      // A plan that moves nothing has nothing to try.
      lacks:
        session.changes.some((c) => c.word !== null) || session.plan?.lines.length === 0
          ? null
          : 'No change has been ridden and judged yet.',
    },
    {
      path: 'handover',
      name: 'Hand over',
      note: session.final ? 'handed over' : 'open',
      lacks: session.final ? null : 'Not handed over yet.',
    },
  ];
  return stations.map((s) => ({ ready: s.lacks === null, ...s }));
}
