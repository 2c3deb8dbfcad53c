import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { NavLink } from 'react-router';
import { BODY_TESTS, single } from '../../core/body/tests.ts';
import { filmingHeldBack } from '../../core/intake/intake.ts';
import type { FitSession } from '../../core/records/types.ts';
import { SIDE_LANDMARKS } from '../../core/stroke/landmarks.ts';

export interface Station {
  path: string;
  name: string;
  /** What stands there, in a word or two. */
  note: string;
  /** Whether it has what the next one needs. */
  ready: boolean;
}

const complaintsNote = (n: number): string =>
  n === 0 ? 'nothing hurts' : n === 1 ? '1 complaint' : `${n} complaints`;

/** The stations in working order, each with how far it has got. */
export function stationsOf(session: FitSession): Station[] {
  const { take, asFound } = session;
  const axles = Boolean(take?.axles.rear && take.axles.front && asFound.frame.wheelbaseMm);
  const marks = take ? SIDE_LANDMARKS.filter((k) => take.marks[k]).length : 0;
  const all = marks === SIDE_LANDMARKS.length;
  const tracked = take?.tracking.state ?? 'none';
  const { intake, body } = session;
  const done = Object.values(body.results).filter(
    (r) => r.skipped !== null || r.left !== null || r.right !== null || r.both !== null,
  ).length;
  const stop = intake.redFlags.some((f) => !f.acknowledgedIso);
  const held = filmingHeldBack(intake);
  const measured = asFound.saddle.heightMm !== null || asFound.saddle.heightToSpindleMm !== null;
  return [
    {
      path: 'intake',
      name: 'Intake',
      note: stop ? 'stop: refer' : held ? 'no consent' : complaintsNote(intake.complaints.length),
      ready: held === null && !stop,
    },
    {
      path: 'body',
      name: 'Body',
      note: done === 0 ? 'open' : `${done} of ${BODY_TESTS.length}`,
      ready: single(body, 'inseam') !== null,
    },
    {
      path: 'bike',
      name: 'Bike',
      note: measured ? 'as found' : 'open',
      ready: measured,
    },
    {
      path: 'film',
      name: 'Film',
      note: take ? `${take.video.frames} frames` : 'no clip',
      ready: Boolean(take),
    },
    { path: 'scale', name: 'Scale', note: axles ? 'axles set' : 'open', ready: axles },
    { path: 'mark', name: 'Mark', note: `${marks} of ${SIDE_LANDMARKS.length}`, ready: all },
    {
      path: 'track',
      name: 'Track',
      note: tracked === 'done' ? 'whole clip' : tracked === 'stopped' ? 'a part' : 'open',
      ready: tracked !== 'none',
    },
    {
      path: 'read',
      name: 'Read',
      note: tracked === 'none' ? 'waits for tracks' : axles ? 'figures' : 'waits for scale',
      ready: tracked !== 'none' && axles,
    },
    {
      path: 'plan',
      name: 'Plan',
      note: tracked !== 'none' && axles ? 'saddle height' : 'waits for figures',
      ready: tracked !== 'none' && axles,
    },
  ];
}

/** The stations as graduations on a rule: a long tick where one has what the next needs, a short one where it has not. */
export function StationRuler({ session }: { session: FitSession }) {
  return (
    <Box
      component="nav"
      aria-label="Stations"
      className="no-print"
      sx={{
        display: 'flex',
        borderBottom: 1,
        borderColor: 'text.primary',
        pl: 2,
        overflowX: 'auto',
        flexShrink: 0,
      }}
    >
      {stationsOf(session).map((s, i) => (
        <Box
          key={s.path}
          component={NavLink}
          to={`/sessions/${session.id}/${s.path}`}
          sx={{
            position: 'relative',
            flex: '1 1 0',
            minWidth: 88,
            minHeight: 56,
            pl: 1.5,
            pt: 0.75,
            color: 'text.secondary',
            textDecoration: 'none',
            '&:hover': { color: 'text.primary' },
            '&::before': {
              content: '""',
              position: 'absolute',
              left: 0,
              bottom: 0,
              width: s.ready ? '3px' : '1px',
              height: s.ready ? '72%' : '26%',
              bgcolor: 'text.primary',
            },
            '&.active': { color: 'text.primary' },
            '&.active::after': {
              content: '""',
              position: 'absolute',
              left: 0,
              right: 12,
              bottom: 0,
              height: '4px',
              bgcolor: 'primary.main',
            },
            '&:focus-visible': { outline: '2px solid', outlineColor: 'primary.main', outlineOffset: '-2px' },
          }}
        >
          <Typography component="span" sx={{ display: 'block', fontWeight: 600 }}>
            {i + 1} {s.name}
          </Typography>
          <Typography
            component="span"
            variant="body2"
            noWrap
            sx={{ display: 'block', fontSize: '0.8rem', pr: 0.5 }}
          >
            {s.ready ? '' : '◦ '}
            {s.note}
          </Typography>
        </Box>
      ))}
    </Box>
  );
}
