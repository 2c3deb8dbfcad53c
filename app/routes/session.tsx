import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { data, Outlet, useRouteLoaderData } from 'react-router';
import type { SessionEdit } from '../../core/records/edits.ts';
import { RouteTrouble } from '../components/RouteTrouble';
import { StationRuler } from '../components/StationRuler';
import { TopBar } from '../components/TopBar';
import { CATALOGUE } from '../demo/catalogue';
import { seedDemo } from '../storage/demo';
import { editSession, loadRider, loadSession } from '../storage/sessions';
import type { Route } from './+types/session';

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: loaderData ? `${loaderData.rider?.name ?? 'Session'} · Deep Angle` : 'Deep Angle' },
];

export async function clientLoader({ params }: Route.ClientLoaderArgs) {
  await seedDemo(CATALOGUE);
  const stored = await loadSession(params.sessionId);
  if (!stored)
    throw data('This session is not on this device. It may have been deleted, or made in another browser.', {
      status: 404,
    });
  if (!stored.ok) throw data(stored.message, { status: 409 });
  return { session: stored.value, rider: await loadRider(stored.value.riderId) };
}

/** Every station's edits come here: checked, stored, and answered with a sentence when refused. */
export async function clientAction({ request, params }: Route.ClientActionArgs) {
  return editSession(params.sessionId, (await request.json()) as SessionEdit);
}

/** The session that the current station works on. */
export function useSession() {
  const loaded = useRouteLoaderData<typeof clientLoader>('routes/session');
  if (!loaded) throw new Error('A station is drawn outside its session.');
  return loaded;
}

export default function Session({ loaderData }: Route.ComponentProps) {
  const { session, rider } = loaderData;
  return (
    <Box sx={{ height: { md: '100vh' }, minHeight: '100vh', display: 'flex', flexDirection: 'column' }}>
      <TopBar>
        <Typography noWrap title={rider?.note}>
          <strong>{rider?.name ?? 'Rider not found'}</strong>
          <Typography component="span" color="text.secondary" sx={{ ml: 1.5 }}>
            {rider?.note}
          </Typography>
        </Typography>
      </TopBar>
      <StationRuler session={session} />
      <Box component="main" sx={{ flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column' }}>
        <Outlet />
      </Box>
    </Box>
  );
}

export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  return <RouteTrouble error={error} />;
}
