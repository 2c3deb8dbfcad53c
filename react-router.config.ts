import type { Config } from '@react-router/dev/config';

export default {
  appDirectory: 'app',
  ssr: true,
  // All routes are known from the start: without a network nothing could be asked for later.
  routeDiscovery: { mode: 'initial' },
} satisfies Config;
