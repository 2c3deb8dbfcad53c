import { build, type BuildOptions } from 'vite';

/** A module with all that it imports of this project as one script, held in memory. */
export async function oneModule(how: BuildOptions): Promise<string> {
  const built = await build({ configFile: false, logLevel: 'error', build: { ...how, write: false } });
  const [first] = Array.isArray(built) ? built : [built];
  if (!('output' in first)) throw new Error('Nothing was built.');
  return first.output[0].code;
}
