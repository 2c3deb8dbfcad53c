import { defineConfig } from 'vitest/config';
import { joinedTests } from './scripts/joinedTests.ts';

/** Pure functions, tested without a browser. */
const PURE = ['core', 'sim', 'scripts'];

const shared = { testTimeout: 120_000 };

/** Tests of what is kept in the browser: they share its database, and modules with state. */
const STORED = ['app/{storage,session,jobs}/**/*.test.{ts,tsx}'];

export default defineConfig({
  test: {
    // One worker fewer than there are cores is the default: on two cores that is one.
    maxWorkers: 2,
    projects: [
      {
        plugins: process.env.ALL_TESTS ? [joinedTests(PURE)] : [],
        test: {
          ...shared,
          name: 'pure',
          include: PURE.map((folder) => `${folder}/**/*.test.ts`),
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
