/// <reference lib="webworker" />
import { clientsClaim } from 'workbox-core';
import { createHandlerBoundToURL, precacheAndRoute, type PrecacheEntry } from 'workbox-precaching';
import { NavigationRoute, registerRoute } from 'workbox-routing';
import { CacheFirst, NetworkFirst } from 'workbox-strategies';

declare const self: ServiceWorkerGlobalScope & { __WB_MANIFEST: PrecacheEntry[] };

// A new version waits until it is asked for: nobody is thrown out of a session.
self.addEventListener('message', (event) => {
  const { type } = (event.data ?? {}) as { type?: string };
  if (type === 'SKIP_WAITING') void self.skipWaiting();
});
clientsClaim();
precacheAndRoute(self.__WB_MANIFEST, { cleanURLs: false });

/**
 * Every address is drawn from the same shell. With a network the server's own answer is taken, so that a page and its scripts are of one
 * version; without one the shell that came with this version stands in.
 */
const shell = createHandlerBoundToURL('/');
const network = new NetworkFirst({ cacheName: 'pages', networkTimeoutSeconds: 4 });
registerRoute(
  new NavigationRoute(
    async (options) => {
      try {
        const answer = await network.handle(options);
        return answer.ok || answer.status === 404 ? answer : await shell(options);
      } catch {
        return shell(options);
      }
    },
    // The pose model's page is none of ours to draw.
    { denylist: [/^\/pose\//] },
  ),
);

// A demo film that was opened once is of use without a network too.
registerRoute(({ url }) => url.pathname.startsWith('/demo/'), new CacheFirst({ cacheName: 'demo-films' }));
// Once asked for, the pose model is of use without a network too. Its own two files are small, and follow the version; the model is one.
const POSE = 'pose-model';
registerRoute(({ url }) => url.pathname.startsWith('/pose/model/'), new CacheFirst({ cacheName: POSE }));
registerRoute(
  ({ url }) => url.pathname.startsWith('/pose/'),
  new NetworkFirst({ cacheName: POSE, networkTimeoutSeconds: 4 }),
);
