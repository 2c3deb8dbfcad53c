import { ascending } from 'd3';
import type { BikeSetup } from '../bike/setup.ts';
import { openComplaints, ONSET_WORDS, regionName, type Complaint, type Intake } from '../intake/intake.ts';
import type { MeasureKey } from '../protocol/protocols.ts';
import type { ReportPartKey } from '../records/handOver.ts';
import type { Change } from '../plan/terms/change.ts';
import type { Finding } from '../protocol/finding.ts';
import type { FollowUp } from '../records/followUp.ts';
import { jobsFor, RETORQUE } from './orders.ts';
import { changeInPlainWords, findingInPlainWords, isOut, PLAIN } from './plainWords.ts';
import { reasonsFor } from './reasons.ts';
import { movesInRiderWords } from './riderMoves.ts';
import { differences } from '../visit/setups.ts';

/** What the rider's report is written from. */
export interface ReportCase {
  riderName: string;
  intake: Intake;
  /** As the rider came, and as it was read last; empty where nothing was filmed again. */
  before: readonly Finding[];
  after: readonly Finding[];
  asFound: BikeSetup;
  /** How the bike leaves. */
  leaves: BikeSetup;
  changes: readonly Change[];
  followUps: readonly FollowUp[];
  /** Advice that moves nothing on the bike, in the fitter's words. */
  advice: readonly string[];
  /** Reasons to refer that the intake holds, in words. */
  redFlags: readonly string[];
  halfSteps: boolean;
  studio: { name: string; fitter: string; contact: string };
  /** A day as the studio writes it. */
  day: (iso: string) => string;
  /** A length as the studio shows it. */
  length: (mm: number) => string;
}

const list = (words: readonly string[]): string =>
  words.length < 2 ? (words[0] ?? '') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;

const complaintText = (c: Complaint): string =>
  `${regionName(c.region)}${c.side === 'middle' ? '' : c.side === 'both' ? ' on both sides' : ` on the ${c.side}`} (${c.severity} of 10, ${ONSET_WORDS[c.onset]})`;

const points = (lines: readonly string[]): string => lines.map((l) => `- ${l}`).join('\n');

/** Paragraphs are parted by an empty line. */
const paragraphs = (...all: readonly (string | false)[]): string => all.filter(Boolean).join('\n\n');

const GOALS: Record<Intake['goals'][number], string> = {
  comfort: 'comfort',
  distance: 'longer rides',
  speed: 'speed',
  injury: 'riding without pain',
};

function whyText({ riderName, intake, before }: ReportCase): string {
  const first = riderName.split(/\s+/)[0];
  const filmed = before.length > 0;
  const wanted = list(intake.goals.map((g) => GOALS[g])) || 'a bike that fits';
  return paragraphs(
    `${first}, you came${intake.event ? ` with a plan: ${intake.event}. You` : ' and'} wanted ${wanted}.`,
    openComplaints(intake.complaints).length
      ? `What troubled you: ${list(intake.complaints.map(complaintText))}. We looked for what on the bike could cause that${filmed ? ', and measured you while you pedalled' : ''}.`
      : filmed
        ? 'Nothing hurt. We measured you while you pedalled, to see whether anything should be changed at all.'
        : 'Nothing hurt.',
  );
}

function foundText({ before, after }: ReportCase): string {
  const out = before.filter(isOut);
  const sentences = (out.length ? out : before.slice(0, 4))
    .map(findingInPlainWords)
    .filter((w) => w !== null);
  const results = out.flatMap((f) => {
    const then = after.find((a) => a.key === f.key);
    const words = then ? changeInPlainWords(f, then) : null;
    return words ? [words] : [];
  });
  const fine = before.filter((f) => f.verdict === 'in' && PLAIN[f.key as MeasureKey]).length;
  return paragraphs(
    before.length === 0
      ? 'This time nothing was filmed.'
      : out.length
        ? 'Through the whole stroke, these stood out:'
        : 'Everything lay where it should:',
    points(sentences),
    out.length > 0 && fine > 0 && `${fine} other measures were where they should be.`,
    results.length > 0 && paragraphs('Filmed again after the changes:', points(results)),
  );
}

function changedText(c: ReportCase, moved: readonly string[]): string {
  if (moved.length === 0)
    return c.before.length > 0 ? 'Nothing was changed: the bike fits you as it is.' : 'Nothing was changed.';
  const tried = c.changes.filter((ch) => ch.putBackIso !== null).length;
  const reasons = reasonsFor(c.asFound, c.leaves);
  return paragraphs(
    'What is different on your bike now:',
    points(moved),
    reasons.length > 0 && `We did this ${list(reasons)}.`,
    tried > 0 &&
      `${tried === 1 ? 'One thing' : `${tried} things`} we tried did not help and ${tried === 1 ? 'was' : 'were'} undone.`,
  );
}

const expectText = ({ halfSteps, intake }: ReportCase, moved: readonly string[]): string =>
  paragraphs(
    moved.length
      ? 'It will feel strange for two or three rides: your body knew the old position. Ride easily at first, an hour or so, then lengthen.'
      : 'Ride as before.',
    halfSteps &&
      'We moved in half steps on purpose. There may be more to gain; it can wait for the next visit.',
    openComplaints(intake.complaints).length > 0 &&
      'What troubled you should ease within two to three weeks. Should it get worse instead, ride less and tell us.',
  );

function homeText({ advice, before, after }: ReportCase, moved: readonly string[]): string {
  const busyAnkle = [...after, ...before].some((f) => f.key === 'ankleRangeDeg' && f.verdict === 'high');
  return points(
    [
      ...advice,
      busyAnkle
        ? 'Pedalling drill, twice a week: ten minutes at an easy gear, thinking of a quiet ankle, heel neither dropping nor lifting.'
        : '',
      'Do not move saddle or bar by yourself for now; if a bolt slips, the transfer sheet has every figure to put it back.',
      moved.length ? RETORQUE : 'Have the bolts looked at once a year.',
    ].filter(Boolean),
  );
}

function stopText({ redFlags, studio: { fitter, name, contact } }: ReportCase): string {
  return paragraphs(
    redFlags.length > 0 &&
      `Before you ride on, have this looked at by a doctor, as we told you: ${list(redFlags.map((f) => f.toLowerCase()))}.`,
    'Stop riding and see a doctor or physiotherapist with: a joint that swells; pain at rest or at night; numbness that lasts over a day or sits in the saddle region; weakness; pain that runs down a leg; chest pain, breathlessness or fainting.',
    'We measure and adjust bikes; we make no diagnosis.',
    Boolean(fitter || contact) &&
      `Anything about the position: ${[fitter, name, contact].filter(Boolean).join(', ')}.`,
  );
}

function datesText({ followUps, day }: ReportCase): string {
  const dates = followUps.filter((f) => f.doneIso === null).sort((a, b) => ascending(a.due, b.due));
  return dates.length
    ? points(dates.map((f) => `${day(f.due)}: ${f.why || 'a check of how it goes'}`))
    : 'No date is set. Come back after a crash, an injury, long time off, or with new shoes, saddle, pedals or cranks.';
}

/** The proposed text of each part of the rider's report, in plain words; paragraphs are parted by an empty line, points begin with “- ”. */
export function reportTexts(c: ReportCase): Record<ReportPartKey, string> {
  const moved = movesInRiderWords(c.asFound, c.leaves, c.length);
  return {
    why: whyText(c),
    found: foundText(c),
    changed: changedText(c, moved),
    expect: expectText(c, moved),
    home: homeText(c, moved),
    stop: stopText(c),
    dates: datesText(c),
  };
}

/** Jobs of a set of differences, as the work order lists them. */
export const workOrderOf = (asFound: BikeSetup, leaves: BikeSetup): ReturnType<typeof jobsFor> =>
  jobsFor(differences(asFound, leaves).map((v) => v.at));
