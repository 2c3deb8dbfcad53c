/**
 * npm run damaged -- [number] [door]: hands damaged files to every door of the application that takes one, 500 of them, and looks whether each is
 * answered, whether anything goes uncaught, and how long any of them holds the page. Needs a build and Chromium.
 */
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type Page } from '@playwright/test';
import { CATALOGUE } from '../app/demo/catalogue.ts';
import { DEMO_PARTS } from '../app/demo/parts.ts';
import { chromiumLaunch } from '../e2e/chromium.ts';
import { writeTrainerCsv } from '../core/formats/devicesCsv.ts';
import { writePartsCsv } from '../core/formats/partsCsv.ts';
import { writePlanLog } from '../core/formats/planLog.ts';
import { writeProtocols } from '../core/formats/protocolsJson.ts';
import { PROTOCOLS } from '../core/protocol/protocols.ts';
import { seededRandom } from '../sim/random.ts';

const PORT = 4192;
const wanted = Number(process.argv[2] ?? 500);
/** Only doors whose name begins so. */
const only = process.argv[3] ?? '';
const HOLD_MS = 200;
const folder = mkdtempSync(join(tmpdir(), 'deep-angle-damaged-'));

interface Door {
  name: string;
  path: string;
  input: string;
  good: () => Buffer;
  extension: string;
  /** What tells that the file was answered. */
  answered: (page: Page, file: string) => Promise<void>;
}

const alertOf = async (page: Page): Promise<void> =>
  page.locator('main [role="alert"]').filter({ hasText: /\w/ }).first().waitFor({ timeout: 90_000 });

const visit = CATALOGUE.sessions.find((s) => s.id === 'maren-1')!;
const text = (s: string) => (): Buffer => Buffer.from(s);
const file = (path: string) => (): Buffer => readFileSync(path);

const DOORS: Door[] = [
  ...(
    [
      'public/demo/juno.mp4',
      'public/demo/idris.webm',
      'e2e/files/uneven.mp4',
      'e2e/files/turned.mp4',
    ] as const
  ).map((path): Door => ({
    name: `film ${path.split('/').at(-1)!}`,
    path: '/sessions/idris-1/film',
    input: 'film-file',
    good: file(path),
    extension: path.split('.').at(-1)!,
    answered: async (page, name) => page.locator('main').getByText(name).first().waitFor({ timeout: 90_000 }),
  })),
  {
    name: 'backup',
    path: '/backup',
    input: 'backup-file',
    good: file('e2e/files/backup-v11.zip'),
    extension: 'zip',
    answered: async (page) =>
      page
        .getByTestId('backup-seen')
        .or(page.locator('main [role="alert"]'))
        .first()
        .waitFor({ timeout: 90_000 }),
  },
  {
    name: 'tracks',
    path: '/sessions/maren-1/read',
    input: 'tracks-file',
    good: file('public/demo/maren.tracks.csv'),
    extension: 'csv',
    answered: async (page, name) => page.getByText(name).first().waitFor({ timeout: 90_000 }),
  },
  {
    name: 'parts',
    path: '/parts',
    input: 'parts-file',
    good: text(writePartsCsv(DEMO_PARTS.parts)),
    extension: 'csv',
    answered: async (page) => {
      const rows = await page.getByRole('grid').getAttribute('aria-rowcount');
      await page.waitForFunction(
        (n) =>
          document.querySelector('main [role="alert"]') !== null ||
          document.querySelector('[role="grid"]')?.getAttribute('aria-rowcount') !== n,
        rows,
        { timeout: 30_000 },
      );
    },
  },
  {
    name: 'protocols',
    path: '/protocols',
    input: 'protocols-file',
    good: text(writeProtocols([{ ...PROTOCOLS[0], id: 'own' }])),
    extension: 'json',
    answered: async (page) =>
      page
        .locator('main [role="alert"]')
        .or(page.getByText(/^Read in:/))
        .first()
        .waitFor({ timeout: 90_000 }),
  },
  {
    name: 'plan and log',
    path: '/sessions/maren-1/handover?view=files',
    input: 'plan-file',
    good: text(writePlanLog(visit)),
    extension: 'json',
    answered: alertOf,
  },
  {
    name: 'trainer',
    path: '/sessions/maren-1/trial?view=devices',
    input: 'trainer-file',
    good: text(
      writeTrainerCsv(
        Array.from({ length: 200 }, (_, i) => ({ tS: i, powerW: 200, cadenceRpm: 90, leftPercent: 49 })),
      ),
    ),
    extension: 'csv',
    answered: alertOf,
  },
];

const random = seededRandom(2027);
const at = (n: number): number => Math.floor(n * random());

/** What happens to a file on sticks, in mails and spreadsheets. */
function harmed(good: Buffer): Buffer {
  const out = Buffer.from(good);
  const where = (): number => at(random() < 0.5 ? Math.min(2000, out.length) : out.length);
  switch (at(6)) {
    case 0:
      return out.subarray(0, at(out.length));
    case 1:
      for (let k = 0; k <= at(12); k += 1) out[where()] ^= 1 << at(8);
      return out;
    case 2: {
      const from = where();
      out.fill(at(256), from, Math.min(out.length, from + at(4000)));
      return out;
    }
    case 3: {
      const from = where();
      return Buffer.concat([out.subarray(0, from), out.subarray(from + 1 + at(300))]);
    }
    case 4: {
      const from = where();
      return Buffer.concat([out.subarray(0, from), out.subarray(from, from + at(3000)), out.subarray(from)]);
    }
    default:
      for (let k = 0; k <= at(5); k += 1) out.writeUInt8(random() < 0.5 ? 0xff : 0, where());
      return out;
  }
}

const server = spawn('node', ['server/serve.mjs', '--port', `${PORT}`, '--strict-port'], {
  stdio: ['ignore', 'pipe', 'inherit'],
});
await once(server.stdout, 'data');
const browser = await chromium.launch(chromiumLaunch);
const uncaught: string[] = [];

/** A page of a browser that was never here: what earlier files left is gone. */
async function newPage(): Promise<Page> {
  const context = await browser.newContext({ baseURL: `http://localhost:${PORT}` });
  await context.addInitScript(() => {
    const held: number[] = [];
    (window as unknown as { held: number[] }).held = held;
    new PerformanceObserver((list) => held.push(...list.getEntries().map((e) => e.duration))).observe({
      entryTypes: ['longtask'],
    });
  });
  const fresh = await context.newPage();
  fresh.on('pageerror', (e) => uncaught.push(e.message));
  fresh.on('dialog', (d) => void d.accept());
  await fresh.goto('/');
  await fresh.getByRole('heading', { name: 'Maren Toft' }).waitFor();
  return fresh;
}
const NEW_AFTER = 20;
let page = await newPage();
/** Hands a file to its door. @returns how long it held the page, ms; null where it was not answered */
async function handed(door: Door, name: string, buffer: Buffer): Promise<number | null> {
  await page.goto(door.path);
  const input = page.getByTestId(door.input).first();
  await input.waitFor({ state: 'attached', timeout: 60_000 });
  await page.waitForTimeout(500);
  await page.evaluate(() => ((window as unknown as { held: number[] }).held.length = 0));
  const answer = door.answered(page, name).then(
    () => true,
    () => false,
  );
  // From the disk, as a fitter's file comes: handed over as bytes the test itself would hold the page.
  const path = join(folder, name);
  writeFileSync(path, buffer);
  await input.setInputFiles(path);
  if (!(await answer)) return null;
  await page.waitForTimeout(150);
  return Math.max(0, ...(await page.evaluate(() => (window as unknown as { held: number[] }).held)));
}

/** Machines are noisy: what seems to hold the page is handed over so often again, and its quickest time counts. */
const AGAIN = 3;
const doors = DOORS.filter((d) => d.name.startsWith(only));
const totals = new Map<string, { files: number; silent: number; over: number; longestMs: number }>();
for (let k = 0; k < wanted; k += 1) {
  const door = doors[k % doors.length];
  const total = totals.get(door.name) ?? { files: 0, silent: 0, over: 0, longestMs: 0 };
  totals.set(door.name, total);
  if (k > 0 && k % NEW_AFTER === 0) {
    await page.context().close();
    page = await newPage();
  }
  const buffer = harmed(door.good());
  const name = `damaged${k}.${door.extension}`;
  let held = await handed(door, name, buffer);
  for (let n = 0; n < AGAIN && held !== null && held > HOLD_MS; n += 1) {
    const again = await handed(door, `again${n}-${name}`, buffer);
    held = again === null ? null : Math.min(held, again);
  }
  total.files += 1;
  if (held === null) {
    total.silent += 1;
    console.log(`${name} (${door.name}) was not answered`);
    await page.context().close();
    page = await newPage();
    continue;
  }
  total.longestMs = Math.max(total.longestMs, held);
  if (held > HOLD_MS) total.over += 1;
  if ((k + 1) % 50 === 0) console.log(`${k + 1} files`);
}
for (const [name, t] of totals)
  console.log(
    `${name.padEnd(20)} ${t.files} files, ${t.silent} not answered, ${t.over} held the page over ${HOLD_MS} ms, longest ${t.longestMs.toFixed(0)} ms`,
  );
console.log(`${uncaught.length} errors went uncaught`);
uncaught.slice(0, 10).forEach((e) => console.log(e));
await browser.close();
server.kill();
rmSync(folder, { recursive: true, force: true });
