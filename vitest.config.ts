import { defineConfig } from 'vitest/config';

const shared = { testTimeout: 120_000 };

export default defineConfig({
  test: {
    // One worker fewer than there are cores is the default: on two cores that is one.
    maxWorkers: 2,
    projects: [
      {
        test: {
          ...shared,
          name: 'pure',
          include: ['core/**/*.test.ts', 'sim/**/*.test.ts', 'scripts/**/*.test.ts'],
          // Pure functions share nothing: what they are made of is loaded once for all of them.
          isolate: false,
        },
      },
      {
        test: { ...shared, name: 'app', include: ['app/**/*.test.{ts,tsx}'] },
      },
    ],
  },
});
