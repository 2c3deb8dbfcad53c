import type { Workbox } from 'workbox-window';
import { createStore } from 'zustand/vanilla';

/** How the page stands to the network: kept for use without one, a newer version waiting, a network there at all. */
export interface OfflineState {
  /** Everything needed is on this device. */
  ready: boolean;
  /** A newer version is on this device and waits to be asked for. */
  newer: boolean;
  online: boolean;
}

export const offlineStore = createStore<OfflineState>()(() => ({ ready: false, newer: false, online: true }));
const change = (part: Partial<OfflineState>): void => offlineStore.setState(part);
let worker: Workbox | null = null;
/** A newer service worker is here and waits. */
let waiting = false;
let registered = false;

/** Looked for again while the page stays open for days. */
const LOOK_AGAIN_MS = 3_600_000;

/** How long a newer version has to take over once it is asked for, ms. */
const PATIENCE_MS = 4000;

/** No closer together than this is it asked whether a newer version is served, ms. */
const ASK_AGAIN_MS = 60_000;
let checkedAtMs = -Infinity;

/** The version that this page was built as, as the framework has it. */
const mine = (): string | undefined =>
  (window as unknown as { __reactRouterManifest?: { version?: string } }).__reactRouterManifest?.version;

/** Asks the server whether this page is of the version that it serves; an old page says that a newer one is ready. */
export async function lookForNewer(): Promise<void> {
  if (!import.meta.env?.PROD || Date.now() - checkedAtMs < ASK_AGAIN_MS) return;
  checkedAtMs = Date.now();
  const answer = await fetch('/version', { cache: 'no-store' }).catch(() => null);
  const served = answer?.ok ? (await answer.text()).trim() : null;
  if (served && mine() && served !== mine()) change({ newer: true });
}

/** Keeps the application on this device, once it has been drawn. Nothing happens where browsers have no service workers, or in development. */
export function keepOffline(): void {
  if (!import.meta.env.PROD || registered) return;
  registered = true;
  // Coming back to the page is when a newer version matters.
  document.addEventListener('visibilitychange', () => void (document.hidden || lookForNewer()));
  setInterval(() => void lookForNewer(), LOOK_AGAIN_MS);
  change({ online: navigator.onLine });
  window.addEventListener('online', () => change({ online: true }));
  window.addEventListener('offline', () => change({ online: false }));
  if (!('serviceWorker' in navigator)) return;
  // Browsers may forbid it (private windows, their owner's settings): then the page goes on needing the network, and says so.
  void register().catch(() => change({ ready: false }));
}

async function register(): Promise<void> {
  // Browsers only: the server draws pages too, and has no use for it.
  const { Workbox } = await import('workbox-window');
  const wb = new Workbox('/sw.js');
  worker = wb;
  wb.addEventListener('waiting', () => {
    waiting = true;
    change({ newer: true });
  });
  await wb.register();
  setInterval(() => void wb.update().catch(() => undefined), LOOK_AGAIN_MS);
  await navigator.serviceWorker.ready;
  change({ ready: true });
}

/** Takes the newer version, and draws the page anew from it: only when the fitter says so. */
export function takeNewer(): void {
  if (!waiting) {
    window.location.reload();
    return;
  }
  const reload = (): void => window.location.reload();
  worker!.addEventListener('controlling', reload);
  worker!.messageSkipWaiting();
  // Where the newer worker is slow to take over: with a network the server's own page is drawn all the same.
  setTimeout(reload, PATIENCE_MS);
}
