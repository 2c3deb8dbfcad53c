import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['core/**/*.test.ts', 'sim/**/*.test.ts', 'app/**/*.test.{ts,tsx}', 'scripts/**/*.test.ts'],
    testTimeout: 120_000,
    // One worker fewer than there are cores is the default: on two cores that is one.
    maxWorkers: 2,
  },
});
