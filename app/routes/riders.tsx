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
import { useDeferredValue, useEffect, useMemo, useState } from 'react';
import { Form, Link, redirect, useSearchParams, type ShouldRevalidateFunctionArgs } from 'react-router';
import { riderName } from '../../core/records/schemas.ts';
import { RECORD_VERSIONS } from '../../core/records/migrations.ts';
import type { FitSession, Rider } from '../../core/records/types.ts';
import { protocolById } from '../../core/prescribe/protocols.ts';
import { Choice } from '../components/Choice';
import { RouteTrouble } from '../components/RouteTrouble';
import { stationsOf } from '../components/StationRuler';
import { TopBar } from '../components/TopBar';
import { CATALOGUE } from '../demo/catalogue';
import { seedDemo } from '../storage/demo';
import { studioNow } from '../storage/bin';
import { blankSession, saveRider, saveSession } from '../storage/sessions';
import type { Route } from './+types/riders';

interface Row {
  rider: Rider;
  session: FitSession | null;
}

export async function clientLoader(): Promise<{ rows: Row[]; unread: number; binned: number }> {
  await seedDemo(CATALOGUE);
  const { riders, sessions, unread } = await studioNow(new Date().toISOString());
  const newest = new Map<string, FitSession>();
  for (const s of sessions) {
    const held = newest.get(s.riderId);
    if (s.deletedIso === null && (!held || s.startedIso > held.startedIso)) newest.set(s.riderId, s);
  }
  const rows = riders
    .filter((rider) => rider.deletedIso === null)
    .map((rider) => ({ rider, session: newest.get(rider.id) ?? null }));
  const binned = riders.length - rows.length + sessions.filter((s) => s.deletedIso !== null).length;
  return { rows, unread, binned };
}

type Order = 'visit' | 'name' | 'complaints';

const ORDERS: readonly (readonly [Order, string])[] = [
  ['visit', 'last visit'],
  ['name', 'name'],
  ['complaints', 'worst complaint'],
];

const lastSeen = (r: Row): string => r.session?.startedIso ?? r.rider.createdIso;
const worst = (r: Row): number =>
  Math.max(-1, ...(r.session?.intake.complaints.map((c) => c.severity) ?? []));

const BY: Record<Order, (a: Row, b: Row) => number> = {
  visit: (a, b) => lastSeen(b).localeCompare(lastSeen(a)),
  name: (a, b) => a.rider.name.localeCompare(b.rider.name),
  complaints: (a, b) => worst(b) - worst(a) || a.rider.name.localeCompare(b.rider.name),
};

/** Looking for a rider changes the address, not what is stored. */
export function shouldRevalidate({
  currentUrl,
  nextUrl,
  formMethod,
  defaultShouldRevalidate,
}: ShouldRevalidateFunctionArgs) {
  const onlyLooking =
    !formMethod && currentUrl.pathname === nextUrl.pathname && currentUrl.search !== nextUrl.search;
  return onlyLooking ? false : defaultShouldRevalidate;
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
    deletedIso: null,
  };
  const session = blankSession(rider.id, nanoid(), now);
  await saveRider(rider);
  await saveSession(session);
  return redirect(`/sessions/${session.id}/intake`);
}

export default function Riders({ loaderData, actionData }: Route.ComponentProps) {
  const [adding, setAdding] = useState(false);
  const { rows, unread, binned } = loaderData;
  const [search, setSearch] = useSearchParams();
  const [words, setWords] = useState(search.get('find') ?? '');
  const [order, setOrder] = useState<Order>(
    ORDERS.find(([key]) => key === search.get('order'))?.[0] ?? 'visit',
  );
  // The address follows what is typed, so that the way back leads to the same list.
  useEffect(() => {
    const next = { ...(words && { find: words }), ...(order !== 'visit' && { order }) };
    setSearch(next, { replace: true, preventScrollReset: true });
    // `setSearch` is new with every address, and would make this run for ever.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [words, order]);
  const asked = useDeferredValue(words);
  const found = useMemo(() => {
    const parts = asked.toLowerCase().split(/\s+/).filter(Boolean);
    return rows
      .filter(({ rider }) => {
        const text = `${rider.name} ${rider.note}`.toLowerCase();
        return parts.every((w) => text.includes(w));
      })
      .sort(BY[order]);
  }, [rows, asked, order]);
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
          <Button component={Link} to="/parts" sx={{ mr: 1 }}>
            Parts bin
          </Button>
          <Button component={Link} to="/backup" sx={{ mr: 1 }}>
            Backup
          </Button>
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
        {rows.length > 0 && (
          <Box sx={{ display: 'flex', gap: 3, alignItems: 'flex-end', flexWrap: 'wrap', mb: 2 }}>
            <TextField
              type="search"
              size="small"
              label="Find a rider"
              value={words}
              onChange={(e) => setWords(e.target.value)}
              sx={{ width: 300 }}
            />
            <Choice label="In order of" options={ORDERS} value={order} onChange={(v) => v && setOrder(v)} />
            <Box sx={{ flex: 1 }} />
            {binned > 0 && (
              <Button component={Link} to="/bin">
                Bin ({binned})
              </Button>
            )}
          </Box>
        )}
        {rows.length > 0 && found.length === 0 && (
          <Typography sx={{ mb: 2 }}>No rider’s name or note has “{words}”.</Typography>
        )}
        {rows.length === 0 && (
          <Typography>No riders yet. The first one is a name away: “New rider…”.</Typography>
        )}
        <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0, borderTop: 1, borderColor: 'text.primary' }}>
          {found.map(({ rider, session }) => (
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
    <Box
      component="li"
      sx={{ borderBottom: 1, borderColor: 'divider', display: 'flex', alignItems: 'center' }}
    >
      <Box
        component={session ? Link : 'div'}
        {...(session && { to: `/sessions/${session.id}` })}
        sx={{
          flex: 1,
          minWidth: 0,
          display: 'grid',
          gridTemplateColumns: { xs: '1fr', md: 'minmax(0, 1fr) 170px 170px' },
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
      <Button component={Link} to={`/riders/${rider.id}`} aria-label={`${rider.name}: visits and record`}>
        Record
      </Button>
    </Box>
  );
}

export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  return <RouteTrouble error={error} bare />;
}
