import { redirect } from 'react-router';
import { saveSettings } from '../storage/settings';
import type { Settings } from '../../core/records/types.ts';
import type { Route } from './+types/settings';

/** Studio settings are changed from any page; there is no page of their own yet. */
export async function clientAction({ request }: Route.ClientActionArgs) {
  await saveSettings((await request.json()) as Partial<Settings>);
  return { ok: true };
}

export const loader = () => redirect('/');
