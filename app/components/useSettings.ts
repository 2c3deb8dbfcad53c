import { useRouteLoaderData } from 'react-router';
import { DEFAULT_SETTINGS, type Settings } from '../../core/records/types.ts';

/** The studio's settings, as the root has loaded them. */
export function useSettings(): Settings {
  const loaded = useRouteLoaderData('root') as { settings: Settings } | undefined;
  return loaded?.settings ?? DEFAULT_SETTINGS;
}
