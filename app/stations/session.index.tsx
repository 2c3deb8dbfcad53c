import { redirect } from 'react-router';
import { stationsOf } from '../../core/visit/stations.ts';
import { loadSession } from '../storage/sessions';
import type { Route } from './+types/session.index';

/** A session opens at the first station that is still open, or at its plan. */
export async function clientLoader({ params }: Route.ClientLoaderArgs) {
  const stored = await loadSession(params.sessionId);
  const stations = stored?.ok ? stationsOf(stored.value) : [];
  const next = stations.find((s) => !s.ready) ?? stations[stations.length - 1];
  return redirect(`/sessions/${params.sessionId}/${next?.path ?? 'film'}`);
}

export default function Opening() {
  return null;
}
