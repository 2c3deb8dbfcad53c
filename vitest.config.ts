import type { Plugin } from 'vite';
import { defineConfig } from 'vitest/config';
import { oneModule } from './scripts/oneModule.ts';

const shared = { testTimeout: 120_000 };

/** Tests of what is kept in the browser: they share its database, and modules with state. */
const STORED = ['app/{storage,session,jobs}/**/*.test.{ts,tsx}'];

/** Tests that compute for long, most of it over pictures. */
const LONG =
  /[\\/](films|coverage|accuracy|live|ramp|followLive|filmFacts|snap|closedLoop|layout|wheels|finite|nameFilm|tracking|outcome)\.test\.ts$/;

/**
 * Joins a long test with all that it tests into one module, as the application’s workers are: from module to module every name is looked up
 * anew at each use, which takes such a test half as long again.
 */
const joined: Plugin = {
  name: 'joined',
  enforce: 'pre',
  load: (id) =>
    LONG.test(id)
      ? oneModule({ ssr: id, minify: false, target: 'node20', rolldownOptions: { external: ['vitest'] } })
      : null,
};

export default defineConfig({
  test: {
    // One worker fewer than there are cores is the default: on two cores that is one.
    maxWorkers: 2,
    projects: [
      {
        plugins: [joined],
        test: {
          ...shared,
          name: 'pure',
          include: ['core/**/*.test.ts', 'sim/**/*.test.ts', 'scripts/**/*.test.ts'],
          // Pure functions share nothing: what they are made of is loaded once for all of them.
          isolate: false,
        },
      },
      {
        // What keeps records has a store of its own in each file.
        test: { ...shared, name: 'stored', include: STORED },
      },
      {
        test: {
          ...shared,
          name: 'drawn',
          include: ['app/**/*.test.{ts,tsx}'],
          exclude: STORED,
          // Each takes away what it drew: the component library is loaded once for all of them.
          isolate: false,
        },
      },
    ],
  },
});
