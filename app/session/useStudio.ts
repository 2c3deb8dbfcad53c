import { useMemo } from 'react';
import { useRouteLoaderData } from 'react-router';
import { NEW_STUDIO, type Studio } from '../../core/records/types.ts';
import { signedFor } from '../demo/signature';

/** The studio's record, as the root has loaded it. */
export function useStudio(): Studio {
  const loaded = useRouteLoaderData('root') as { studio: Studio } | undefined;
  return loaded?.studio ?? NEW_STUDIO;
}

/** The studio as a rider's papers and calendar carry it: the sample's name stands on the sample's riders alone. */
export function useSignature(riderId: string): Studio {
  const studio = useStudio();
  return useMemo(() => signedFor(riderId, studio), [riderId, studio]);
}
