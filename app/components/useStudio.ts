import { useRouteLoaderData } from 'react-router';
import { NEW_STUDIO, type Studio } from '../../core/records/types.ts';

/** The studio's record, as the root has loaded it. */
export function useStudio(): Studio {
  const loaded = useRouteLoaderData('root') as { studio: Studio } | undefined;
  return loaded?.studio ?? NEW_STUDIO;
}
