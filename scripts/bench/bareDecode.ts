import { oneModule } from '../oneModule.ts';

/** The yardstick’s worker as one script: the application ships nothing that only a benchmark runs. */
export const bareDecodeScript = (): Promise<string> =>
  oneModule({
    minify: true,
    lib: { entry: 'scripts/bench/decode.worker.ts', formats: ['es'], fileName: 'decode' },
  });
