import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import dayjs from 'dayjs';
import { nanoid } from 'nanoid';
import { useState } from 'react';
import { Form, Link, redirect } from 'react-router';
import { checkRecord, riderName } from '../../core/records/schemas.ts';
import { RECORD_VERSIONS } from '../../core/records/migrations.ts';
import type { FitSession, Rider } from '../../core/records/types.ts';
import { UNMEASURED_BIKE } from '../../core/bike/setup.ts';
import { UNTESTED_BODY } from '../../core/body/tests.ts';
import { BLANK_INTAKE } from '../../core/intake/intake.ts';
import { protocolById } from '../../core/prescribe/protocols.ts';
import { RouteTrouble } from '../components/RouteTrouble';
import { stationsOf } from '../components/StationRuler';
import { TopBar } from '../components/TopBar';
import { CATALOGUE } from '../demo/catalogue';
import { seedDemo } from '../storage/demo';
import { saveRider, saveSession } from '../storage/sessions';
import { riderStore, sessionStore } from '../storage/stores';
import type { Route } from './+types/riders';

interface Row {
  rider: Rider;
  session: FitSession | null;
}

async function allOf<T>(store: LocalForage): Promise<T[]> {
  const out: T[] = [];
  await store.iterate<T, void>((value) => {
    out.push(value);
  });
  return out;
}

export async function clientLoader(): Promise<{ rows: Row[]; unread: number }> {
  await seedDemo(CATALOGUE);
  const [riders, sessions] = await Promise.all([allOf<unknown>(riderStore), allOf<unknown>(sessionStore)]);
  const good = riders.map((r) => checkRecord('rider', r));
  const fits = sessions.map((s) => checkRecord('session', s)).flatMap((s) => (s.ok ? [s.value] : []));
  const rows = good
    .flatMap((r) => (r.ok ? [r.value] : []))
    .map((rider) => ({
      rider,
      session:
        fits
          .filter((s) => s.riderId === rider.id)
          .sort((a, b) => b.startedIso.localeCompare(a.startedIso))[0] ?? null,
    }))
    .sort((a, b) =>
      (b.session?.startedIso ?? b.rider.createdIso).localeCompare(
        a.session?.startedIso ?? a.rider.createdIso,
      ),
    );
  return { rows, unread: good.length - rows.length };
}

/** A new rider with a first session. */
export async function clientAction({ request }: Route.ClientActionArgs) {
  const form = await request.formData();
  const { error, value } = riderName.required().validate(String(form.get('name') ?? ''));
  if (error) return { message: error.message };
  const now = new Date().toISOString();
  const rider: Rider = {
    version: RECORD_VERSIONS.rider,
    id: nanoid(),
    name: value as string,
    note: String(form.get('note') ?? '').slice(0, 2000),
    createdIso: now,
  };
  const session: FitSession = {
    version: RECORD_VERSIONS.session,
    id: nanoid(),
    riderId: rider.id,
    startedIso: now,
    protocolId: 'long-distance',
    intake: BLANK_INTAKE,
    body: UNTESTED_BODY,
    asFound: UNMEASURED_BIKE,
    take: null,
    triedSaddleMm: null,
  };
  await saveRider(rider);
  await saveSession(session);
  return redirect(`/sessions/${session.id}/intake`);
}

export default function Riders({ loaderData, actionData }: Route.ComponentProps) {
  const [adding, setAdding] = useState(false);
  const { rows, unread } = loaderData;
  return (
    <Box sx={{ minHeight: '100vh' }}>
      <TopBar>
        <Typography color="text.secondary">{CATALOGUE.studio}</Typography>
      </TopBar>
      <Box component="main" sx={{ maxWidth: 1080, mx: 'auto', p: { xs: 2, md: 4 } }}>
        <Box sx={{ display: 'flex', alignItems: 'center', mb: 2 }}>
          <Typography variant="h1" sx={{ flex: 1 }}>
            Riders
          </Typography>
          <Button variant="outlined" onClick={() => setAdding(true)}>
            New rider…
          </Button>
        </Box>
        {unread > 0 && (
          <Alert severity="warning" sx={{ mb: 2 }}>
            {unread} stored {unread === 1 ? 'rider was' : 'riders were'} written by a newer version or can’t
            be read, and {unread === 1 ? 'is' : 'are'} kept untouched.
          </Alert>
        )}
        {rows.length === 0 && (
          <Typography>No riders yet. The first one is a name away: “New rider…”.</Typography>
        )}
        <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0, borderTop: 1, borderColor: 'text.primary' }}>
          {rows.map(({ rider, session }) => (
            <RiderRow key={rider.id} rider={rider} session={session} />
          ))}
        </Box>
      </Box>
      <Dialog open={adding} onClose={() => setAdding(false)} fullWidth maxWidth="sm">
        <Form method="post">
          <DialogTitle>New rider</DialogTitle>
          <DialogContent sx={{ display: 'grid', gap: 2, pt: 1 }}>
            <TextField
              name="name"
              label="Name"
              autoFocus
              error={Boolean(actionData?.message)}
              helperText={actionData?.message}
              sx={{ mt: 1 }}
            />
            <TextField name="note" label="Why they came" multiline minRows={2} />
          </DialogContent>
          <DialogActions>
            <Button onClick={() => setAdding(false)}>Cancel</Button>
            <Button type="submit" variant="contained">
              Begin a session
            </Button>
          </DialogActions>
        </Form>
      </Dialog>
    </Box>
  );
}

function RiderRow({ rider, session }: Row) {
  const stations = session ? stationsOf(session) : [];
  const next = stations.find((s) => !s.ready);
  return (
    <Box component="li" sx={{ borderBottom: 1, borderColor: 'divider' }}>
      <Box
        component={session ? Link : 'div'}
        {...(session && { to: `/sessions/${session.id}` })}
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: '1fr', md: 'minmax(0, 1fr) 170px 190px' },
          gap: { xs: 0.5, md: 3 },
          py: 2,
          px: 1.5,
          color: 'text.primary',
          textDecoration: 'none',
          '&:hover': { bgcolor: 'action.hover' },
          '&:focus-visible': { outline: '2px solid', outlineColor: 'primary.main' },
        }}
      >
        <Box sx={{ minWidth: 0 }}>
          <Typography variant="h2" component="h2" noWrap title={rider.name}>
            {rider.name}
          </Typography>
          <Typography color="text.secondary">{rider.note}</Typography>
        </Box>
        <Box>
          <Typography>{session ? dayjs(session.startedIso).format('D MMMM YYYY') : 'no session'}</Typography>
          <Typography variant="body2" color="text.secondary">
            {session && protocolById(session.protocolId).name}
          </Typography>
        </Box>
        <Box>
          <Box
            aria-hidden
            sx={{
              display: 'flex',
              alignItems: 'flex-end',
              height: 20,
              borderBottom: 1,
              borderColor: 'text.primary',
              gap: '14px',
              pl: '2px',
              width: 150,
            }}
          >
            {stations.map((s) => (
              <Box
                key={s.path}
                sx={{
                  width: s.ready ? '3px' : '1px',
                  height: s.ready ? 18 : 7,
                  bgcolor: s.ready ? 'primary.main' : 'text.primary',
                }}
              />
            ))}
          </Box>
          <Typography variant="body2" color="text.secondary">
            {next ? `next: ${next.name.toLowerCase()}` : 'ready to plan'}
          </Typography>
        </Box>
      </Box>
    </Box>
  );
}

export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  return <RouteTrouble error={error} bare />;
}
