import Redo from '@mui/icons-material/Redo';
import Undo from '@mui/icons-material/Undo';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import Typography from '@mui/material/Typography';
import { useCallback, useEffect, useState } from 'react';
import {
  data,
  Link,
  Outlet,
  useParams,
  useRouteLoaderData,
  type ShouldRevalidateFunctionArgs,
} from 'react-router';
import { useStore } from 'zustand';
import { RouteTrouble } from '../ui/RouteTrouble';
import { KeysHelp } from './KeysHelp';
import { UNSEEN } from '../ui/unseen';
import { NextBar } from './NextBar';
import { StationRuler } from './StationRuler';
import { NextPlace } from '../ui/NextAction';
import { readingKey, readsStore } from '../jobs/readings';
import { stationsOf } from '../../core/visit/stations.ts';
import { openTake } from '../../core/records/types.ts';
import { TopBar } from '../ui/TopBar';
import { CATALOGUE } from '../demo/catalogue';
import { liesInTrash } from '../storage/trash';
import { seedDemo } from '../storage/demo';
import { newestOf } from '../../core/protocol/shelf.ts';
import { allProtocols } from '../storage/protocols';
import { partsThere } from '../storage/parts';
import { followSession } from '../storage/tabs';
import type { Direction } from '../storage/past';
import { useSend } from '../session/useSend';
import type { EditResult } from '../../core/visit/edits.ts';
import { openVisit, refreshVisit, stepVisit, visitStore } from '../session/visits';
import { loadRider } from '../storage/sessions';
import type { Route } from './+types/session';
import { notify } from '../session/notices';
import { dayText } from '../ui/words/dates';

export const meta: Route.MetaFunction = ({ loaderData }) => [
  // Titles stay in the browser’s history: no rider’s name.
  {
    title: loaderData ? `Visit of ${dayText(loaderData.session.startedIso)} · Deep Angle` : 'Deep Angle',
  },
];

export async function clientLoader({ params }: Route.ClientLoaderArgs) {
  await seedDemo(CATALOGUE);
  const stored = await openVisit(params.sessionId);
  if (!stored)
    throw data('This visit is not on this device. It may have been deleted, or made in another browser.', {
      status: 404,
    });
  if (!stored.ok) throw data(stored.message, { status: 409 });
  const rider = await loadRider(stored.value.riderId);
  const lies = stored.value.deletedIso ? 'This visit' : rider?.deletedIso ? 'This rider' : null;
  if (lies) throw data(liesInTrash(lies), { status: 410 });
  return {
    session: stored.value,
    rider,
    protocols: newestOf(await allProtocols()),
    parts: await partsThere(),
  };
}

/** Steps back and forward; edits themselves go to the same store without a detour (`useEdit`). */
export async function clientAction({ request, params }: Route.ClientActionArgs) {
  const { kind } = (await request.json()) as { kind: Direction };
  return stepVisit(params.sessionId, kind);
}

/** What is drawn follows the store; a step back needs nothing loaded again. */
export const shouldRevalidate = ({
  formAction,
  defaultShouldRevalidate,
}: ShouldRevalidateFunctionArgs): boolean =>
  formAction?.startsWith('/sessions/') ? false : defaultShouldRevalidate;

/** The session that the current station works on, as it is shown: what is on its way to the store is in it. */
export function useSession() {
  const loaded = useRouteLoaderData<typeof clientLoader>('stations/session');
  if (!loaded) throw new Error('A station is drawn outside its session.');
  const shown = useStore(visitStore, ({ open }) => open[loaded.session.id]?.shown);
  return { ...loaded, session: shown ?? loaded.session };
}

/** Takes back and does again what was edited in this session, by button or Ctrl+Z. Boards of points have their own. */
function UndoRedo() {
  const { sessionId = '' } = useParams();
  const { fetcher, send } = useSend<{ kind: Direction }, EditResult>();
  const answer = fetcher.data;
  const steps = useStore(visitStore, ({ open }) => open[sessionId]?.steps);
  useEffect(() => {
    if (answer?.ok === false) notify(answer.message);
  }, [answer]);
  const go = useCallback((kind: Direction) => send({ kind }), [send]);
  useEffect(() => {
    const onKey = (e: KeyboardEvent): void => {
      if (e.defaultPrevented || !(e.ctrlKey || e.metaKey) || e.target instanceof HTMLTextAreaElement) return;
      // In a field being typed in, the browser's own undo is meant.
      if (e.target instanceof HTMLInputElement && ['text', 'date'].includes(e.target.type)) return;
      const key = e.key.toLowerCase();
      if (key !== 'z' && key !== 'y') return;
      e.preventDefault();
      go(key === 'y' || e.shiftKey ? 'redo' : 'undo');
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [go]);
  return (
    <>
      <IconButton aria-label="Undo the last change" disabled={!steps?.undo} onClick={() => go('undo')}>
        <Undo />
      </IconButton>
      <IconButton aria-label="Redo" disabled={!steps?.redo} onClick={() => go('redo')}>
        <Redo />
      </IconButton>
    </>
  );
}

export default function Session({ loaderData }: Route.ComponentProps) {
  const { rider } = loaderData;
  const { session } = useSession();
  const [company, setCompany] = useState(false);
  const [place, setPlace] = useState<HTMLElement | null>(null);
  const take = openTake(session);
  const key = take ? readingKey(session, take) : '';
  const reads = useStore(readsStore, (s) => s.reads[key] ?? null);
  const stations = stationsOf(session, reads);
  useEffect(() => followSession(session.id, () => void refreshVisit(session.id), setCompany), [session.id]);
  return (
    <Box sx={{ height: { md: '100vh' }, minHeight: '100vh', display: 'flex', flexDirection: 'column' }}>
      <TopBar tools={<UndoRedo />}>
        <Typography noWrap title={rider?.note}>
          {rider ? (
            <Box component={Link} to={`/riders/${rider.id}`} sx={{ color: 'inherit', fontWeight: 700 }}>
              {rider.name}
            </Box>
          ) : (
            <strong>Rider not found</strong>
          )}
          <Typography component="span" color="textSecondary" sx={{ ml: 1.5 }}>
            {rider?.note}
          </Typography>
        </Typography>
      </TopBar>
      {company && (
        <Alert severity="info" variant="outlined" className="no-print" sx={{ borderRadius: 0, py: 0 }}>
          This visit is also open in another tab. Both show the same: what is changed in one, the other
          follows.
        </Alert>
      )}
      <StationRuler stations={stations} visitId={session.id} />
      <Box component="main" sx={{ flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column' }}>
        {/* For those who hear the page: the stations have no heading of their own over everything. */}
        <Box component="h1" sx={UNSEEN}>
          {rider?.name ?? 'Rider not found'}, visit
        </Box>
        <NextPlace value={place}>
          <Outlet />
        </NextPlace>
      </Box>
      <KeysHelp />
      <NextBar stations={stations} visitId={session.id} place={setPlace} />
    </Box>
  );
}

export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  return <RouteTrouble error={error} />;
}
