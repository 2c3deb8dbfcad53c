import type { Catalogue } from '../demo/catalogue';
import { DEMO_PARTS } from '../demo/parts';
import { PARTS } from './parts';
import { riderStore, sessionStore, settingsStore } from './stores';

const SEEDED = 'demo-seeded';

/** On a browser's first visit the demo studio is laid out; later visits leave what is there alone. */
export async function seedDemo(catalogue: Catalogue): Promise<void> {
  if (await settingsStore.getItem(SEEDED)) return;
  await Promise.all([
    ...catalogue.riders.map((r) => riderStore.setItem(r.id, r)),
    settingsStore.setItem(PARTS, DEMO_PARTS),
    ...catalogue.sessions.map((s) => sessionStore.setItem(s.id, s)),
  ]);
  await settingsStore.setItem(SEEDED, true);
}
