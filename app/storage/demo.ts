import type { Catalogue } from '../demo/catalogue';
import { DEMO_PARTS } from '../demo/parts';
import { isBare } from './database';
import { newerWasHere } from './generation';
import { bikeStore, riderStore, sessionStore, settingsStore } from './stores';
import { alone } from './tabs';

const SEEDED = 'demo-seeded';

/** Whether this browser has been here before. */
export const isSeeded = async (): Promise<boolean> => Boolean(await settingsStore.getItem(SEEDED));

const WELCOMED = 'welcomed';

/** Whether somebody who was asked to set the studio up has put it off. */
export const isWelcomed = async (): Promise<boolean> => Boolean(await settingsStore.getItem(WELCOMED));
export const welcomed = async (): Promise<void> =>
  void (await settingsStore.setItem(WELCOMED, true).catch(() => undefined));

/** Whether nothing has been stored in this browser yet: no demo studio, and no rider of anybody's. */
export const isUntouched = async (): Promise<boolean> =>
  (await isBare()) || (!(await isSeeded()) && (await riderStore.length()) === 0);

/** One laying out at a time: a second one, begun while the first was under way, would write over what was edited in between. */
let seeding: Promise<void> | null = null;

/** On a browser's first visit the demo studio is laid out; later visits leave what is there alone. */
export async function seedDemo(catalogue: Catalogue): Promise<void> {
  if (await isSeeded()) return;
  seeding ??= alone('demo', () => layOut(catalogue)).finally(() => (seeding = null));
  await seeding;
}

async function layOut(catalogue: Catalogue): Promise<void> {
  if (await isSeeded()) return;
  // Notes of which version the records are that follow.
  await newerWasHere();
  await Promise.all([
    ...catalogue.riders.map((r) => riderStore.setItem(r.id, r)),
    ...catalogue.bikes.map((b) => bikeStore.setItem(b.id, b)),
    settingsStore.setItem('parts', DEMO_PARTS),
    settingsStore.setItem('studio', catalogue.studio),
    ...catalogue.sessions.map((s) => sessionStore.setItem(s.id, s)),
  ]);
  await settingsStore.setItem(SEEDED, true);
}
