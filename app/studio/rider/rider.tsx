import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { nanoid } from 'nanoid';
import { useState } from 'react';
import { data, redirect } from 'react-router';
import { historyOf } from '../../../core/report/history.ts';
import { bikesOf } from '../../../core/visit/bikes.ts';
import { checkRecord, riderEmail, riderName, riderPhone } from '../../../core/records/schemas.ts';
import { nextVisit } from '../../../core/visit/visits.ts';
import { Sheet } from '../../ui/Desk';
import { FollowUps } from '../../ui/FollowUps';
import { download } from '../../ui/download';
import { answering } from '../../session/answering';
import { RouteTrouble } from '../../ui/RouteTrouble';
import { BikesSheet, Deletion, VisitRow, type RiderRequest } from './RiderSheets';
import { Timeline } from './Timeline';
import { TopBar } from '../../ui/TopBar';
import { WordsField } from '../../ui/fields/WordsField';
import { CATALOGUE } from '../../demo/catalogue';
import { saveBundle } from '../../jobs/backup';
import { notify } from '../../session/notices';
import { useSend } from '../../session/useSend';
import { editVisit, VISIT_GONE } from '../../session/visits';
import { tellWhatWent } from '../../session/went';
import { newBike, storedBikes } from '../../storage/bikes';
import { liesInTrash, sessionsOf } from '../../storage/trash';
import { seedDemo } from '../../storage/demo';
import {
  binVisit,
  blankSession,
  changeRider,
  loadRider,
  loadSession,
  saveBike,
  saveSession,
} from '../../storage/sessions';
import type { Route } from './+types/rider';
import { loadStudio } from '../../storage/studio';
import { studioIndex } from '../../storage/studioIndex';
import dayjs from 'dayjs';
import { dayText } from '../../ui/words/dates';

// Titles stay in the browser’s history: no rider’s name.
export const meta: Route.MetaFunction = () => [{ title: 'A rider · Deep Angle' }];

export async function clientLoader({ params }: Route.ClientLoaderArgs) {
  await seedDemo(CATALOGUE);
  const rider = await loadRider(params.riderId);
  if (!rider) {
    const { unreadable } = await studioIndex();
    if (unreadable.some((u) => u.kind === 'rider' && u.id === params.riderId))
      throw data(
        'This rider’s record was written by a newer version of Deep Angle, or is damaged. It is kept unchanged: update, or restore the rider from a backup.',
        { status: 409 },
      );
    throw data('This rider is not on this device.', { status: 404 });
  }
  if (rider.deletedIso) throw data(liesInTrash('This rider'), { status: 410 });
  const sessions = (await sessionsOf(rider.id)).filter((s) => s.deletedIso === null);
  return { rider, sessions, bikes: bikesOf(rider.id, await storedBikes(rider.id), sessions) };
}

const CONTACT = { email: riderEmail, phone: riderPhone };

export const clientAction = answering(async ({ request, params }: Route.ClientActionArgs) => {
  const wanted = (await request.json()) as RiderRequest;
  const rider = await loadRider(params.riderId);
  if (!rider) return { message: 'This rider is no longer on this device.' };
  if (wanted.what === 'restore') {
    await changeRider(rider.id, (r) => ({ ...r, deletedIso: null }));
    return null;
  }
  if (rider.deletedIso) return { message: liesInTrash('This rider') };
  const now = new Date().toISOString();
  switch (wanted.what) {
    case 'name': {
      const { error, value } = riderName.required().validate(wanted.text);
      if (error) return { message: error.message };
      await changeRider(rider.id, (r) => ({ ...r, name: value as string }));
      return null;
    }
    case 'note':
      await changeRider(rider.id, (r) => ({ ...r, note: wanted.text.slice(0, 2000) }));
      return null;
    case 'email':
    case 'phone': {
      const { error, value } = CONTACT[wanted.what].required().validate(wanted.text);
      if (error) return { message: error.message };
      await changeRider(rider.id, (r) => ({ ...r, [wanted.what]: value as string }));
      return null;
    }
    case 'visit-day': {
      const stored = await editVisit(wanted.sessionId, {
        kind: 'set',
        at: 'startedIso',
        value: dayjs(wanted.day).hour(12).toISOString(),
      });
      return stored.ok ? null : { message: stored.message };
    }
    case 'delete':
      await changeRider(rider.id, (r) => ({ ...r, deletedIso: now }));
      return redirect('/');
    case 'restore-session':
      await binVisit(wanted.sessionId, null);
      return null;
    case 'bike':
      await saveBike(newBike(rider.id, nanoid(), now));
      return null;
    case 'bike-name':
    case 'bike-note': {
      const change = { [wanted.what === 'bike-name' ? 'name' : 'note']: wanted.text };
      const checked = checkRecord('bike', { ...wanted.bike, riderId: rider.id, ...change });
      if (!checked.ok) return { message: checked.message };
      await saveBike(checked.value);
      return null;
    }
    case 'habits': {
      const checked = checkRecord('rider', { ...rider, habits: { ...wanted.habits, learnedIso: now } });
      if (!checked.ok) return { message: checked.message };
      await changeRider(rider.id, (r) => ({ ...r, habits: checked.value.habits }));
      return null;
    }
    case 'due': {
      const before = await loadSession(wanted.sessionId);
      const stored = await editVisit(wanted.sessionId, { kind: 'set', at: 'followUps', value: wanted.list });
      if (stored.ok && before?.ok) tellWhatWent(wanted.sessionId, before.value, stored.session);
      return stored.ok ? null : { message: stored.message };
    }
    case 'new': {
      const session = blankSession(
        { riderId: rider.id, bikeId: wanted.bikeId, id: nanoid() },
        await loadStudio(),
        now,
      );
      await saveSession(session);
      return redirect(`/sessions/${session.id}/intake`);
    }
    default: {
      const going = wanted.what === 'delete-session';
      const stored = await (going ? binVisit(wanted.sessionId, now) : loadSession(wanted.sessionId));
      if (!stored?.ok) return { message: stored?.message ?? VISIT_GONE };
      if (going) return null;
      const session = nextVisit(stored.value, nanoid(), now);
      await saveSession(session);
      return redirect(`/sessions/${session.id}/intake`);
    }
  }
});

export default function RiderPage({ loaderData }: Route.ComponentProps) {
  const { rider, sessions, bikes } = loaderData;
  const { fetcher, send: ask } = useSend<RiderRequest>();
  const [packing, setPacking] = useState(false);
  const [deleting, setDeleting] = useState<'rider' | string | null>(null);
  const nameOf = (bikeId: string): string =>
    bikes.find((b) => b.bike.id === bikeId)?.bike.name || 'a bike without a name';
  const films = sessions.reduce((n, s) => n + s.takes.length, 0);
  return (
    <Box sx={{ minHeight: '100vh' }}>
      <TopBar>
        <Typography noWrap component="h1" sx={{ fontWeight: 700 }}>
          {rider.name}
        </Typography>
      </TopBar>
      <Box
        component="main"
        sx={{ maxWidth: 900, mx: 'auto', p: { xs: 2, md: 4 }, '& > section + section': { mt: 4 } }}
      >
        {fetcher.data?.message && (
          <Alert severity="error" sx={{ mb: 2 }}>
            {fetcher.data.message}
          </Alert>
        )}
        <Sheet title="Rider">
          <Box sx={{ display: 'grid', gap: 1.5, maxWidth: 560 }}>
            <WordsField
              label="Name"
              most={120}
              value={rider.name}
              onChange={(text) => ask({ what: 'name', text })}
            />
            <WordsField
              label="Why they came"
              lines={2}
              most={2000}
              value={rider.note}
              onChange={(text) => ask({ what: 'note', text })}
            />
            <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', sm: '1fr 1fr' }, gap: 1.5 }}>
              <WordsField
                label="Email"
                most={200}
                value={rider.email}
                onChange={(text) => ask({ what: 'email', text })}
              />
              <WordsField
                label="Phone"
                most={60}
                value={rider.phone}
                onChange={(text) => ask({ what: 'phone', text })}
              />
            </Box>
          </Box>
        </Sheet>
        <BikesSheet bikes={bikes} ask={ask} />
        {sessions.length > 0 && (
          <Sheet title="Follow-ups">
            {sessions
              .filter((s, i) => i === 0 || s.followUps.some((f) => f.doneIso === null))
              .map((s) => (
                <Box key={s.id} sx={{ mb: 2 }}>
                  <Typography color="textSecondary">of the visit on {dayText(s.startedIso)}</Typography>
                  <FollowUps
                    list={s.followUps}
                    onChange={(list) => ask({ what: 'due', sessionId: s.id, list })}
                  />
                </Box>
              ))}
          </Sheet>
        )}
        {sessions.length > 0 && (
          <Sheet title="Timeline" note="the position each visit left, and what hurt">
            <Timeline entries={historyOf(sessions)} />
          </Sheet>
        )}
        <Sheet title="Visits" note={sessions.length === 0 ? 'none yet' : `${sessions.length}`}>
          {sessions.map((s) => (
            <VisitRow
              key={s.id}
              visit={s}
              bike={nameOf(s.bikeId)}
              ask={ask}
              onDelete={() => setDeleting(s.id)}
            />
          ))}
          <Box sx={{ display: 'flex', gap: 2, mt: 2 }}>
            <Button
              disabled={packing}
              onClick={() => {
                setPacking(true);
                void saveBundle(rider.id, () => undefined)
                  .then((blob) => download(`${rider.name.replace(/[^\p{L}\p{N}]+/gu, '-')}.zip`, blob))
                  .finally(() => setPacking(false));
              }}
            >
              {packing ? 'Packing…' : 'Everything stored about this rider'}
            </Button>
            <Button onClick={() => setDeleting('rider')}>Delete this rider…</Button>
          </Box>
        </Sheet>
      </Box>
      <Deletion
        of={deleting}
        rider={rider.name}
        visits={sessions.length}
        films={films}
        onClose={() => setDeleting(null)}
        onDelete={() => {
          if (deleting === 'rider') {
            ask({ what: 'delete' });
            notify(`${rider.name} moved to the trash.`, () => ask({ what: 'restore' }));
          } else {
            const sessionId = deleting!;
            ask({ what: 'delete-session', sessionId });
            notify('The visit was moved to the trash.', () => ask({ what: 'restore-session', sessionId }));
          }
        }}
      />
    </Box>
  );
}

export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  return <RouteTrouble error={error} bare />;
}
