import { build } from 'vite';

/** The yardstick’s worker as one script: the application ships nothing that only a benchmark runs. */
export async function bareDecodeScript(): Promise<string> {
  const built = await build({
    configFile: false,
    logLevel: 'error',
    build: {
      write: false,
      minify: true,
      lib: { entry: 'scripts/bench/decode.worker.ts', formats: ['es'], fileName: 'decode' },
    },
  });
  const [first] = Array.isArray(built) ? built : [built];
  if (!('output' in first)) throw new Error('The bare decoder was not built.');
  return first.output[0].code;
}
