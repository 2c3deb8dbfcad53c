import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type BrowserContext, type Page } from '@playwright/test';
import { seededRandom } from '../sim/random.ts';
import { shellLaunch } from './chromium.ts';

// A browser is killed like by a pulled plug, over and over, in the middle of whatever a fitter does; then it is looked what is there.

/** Pages with fields to type into, and visits that have all of them. */
const STATIONS = ['intake', 'body', 'bike', 'film', 'trial', 'handover'];
const VISITS = ['pilar-1', 'juno-1', 'maren-1'];
/** Fields that only begin something, and hold nothing by themselves. */
const PASSING = /^(Find|Day|Why|Reason|Crank, both films|Name of the|What was changed)/;

/** Typed into one field in one life of the browser. */
interface Field {
  path: string;
  label: string;
  nth: number;
  typed: { value: string; atMs: number; acknowledged: boolean }[];
}

export interface Lives {
  profile: string;
  kills: number;
  edits: number;
  /** What was lost or did not start, each as a sentence. */
  troubles: string[];
  /** What was typed in the life before, to be looked for now. */
  fields: Field[];
  /** Where it was typed. */
  lookAt: string | null;
}

export const newLives = (): Lives => ({
  profile: mkdtempSync(join(tmpdir(), 'deep-angle-kills-')),
  kills: 0,
  edits: 0,
  troubles: [],
  fields: [],
  lookAt: null,
});

export const endLives = ({ profile }: Lives): void => rmSync(profile, { recursive: true, force: true });

/** Kills every process that was started with a profile; how many there were. */
function killAll(profile: string): number {
  let killed = 0;
  for (const pid of readdirSync('/proc').filter((name) => /^\d+$/.test(name))) {
    try {
      if (!readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(profile)) continue;
      process.kill(Number(pid), 'SIGKILL');
      killed += 1;
    } catch {
      // It ended by itself meanwhile.
    }
  }
  return killed;
}

/** Starts the browser; one of the life before that is still dying, and the lock it left, are put out of the way first. */
async function open(profile: string, baseURL: string): Promise<BrowserContext> {
  const TRIES = 5;
  for (let left = TRIES; ; left -= 1) {
    killAll(profile);
    for (const lock of ['SingletonLock', 'SingletonSocket', 'SingletonCookie'])
      rmSync(join(profile, lock), { force: true });
    try {
      return await chromium.launchPersistentContext(profile, {
        ...shellLaunch,
        baseURL,
        viewport: { width: 1280, height: 900 },
      });
    } catch (error) {
      if (left === 0) throw error;
      await new Promise((next) => setTimeout(next, 500));
    }
  }
}

const boxes = (page: Page) =>
  page.locator('main input[type="text"]:not([role]):enabled:visible, main textarea:enabled:visible');

/** The fields of a page that keep what is typed: by their label and which of that label. */
async function fieldsOf(
  page: Page,
): Promise<{ label: string; nth: number; value: string; decimal: boolean; lines: boolean }[]> {
  const all = await boxes(page).evaluateAll((elements) =>
    elements.map((e) => {
      const box = e as HTMLInputElement;
      const label = (box.getAttribute('aria-label') ?? box.labels?.[0]?.textContent ?? '').trim();
      return {
        label,
        value: box.value,
        decimal: box.inputMode === 'decimal',
        lines: box.tagName === 'TEXTAREA',
        readOnly: box.readOnly,
      };
    }),
  );
  const seen = new Map<string, number>();
  return all.flatMap(({ readOnly, ...field }) => {
    const { label } = field;
    const nth = seen.get(label) ?? 0;
    seen.set(label, nth + 1);
    return label === '' || readOnly || PASSING.test(label) ? [] : [{ ...field, nth }];
  });
}

const box = (page: Page, { label, nth }: { label: string; nth: number }) =>
  page.locator('main').getByLabel(label, { exact: true }).and(boxes(page)).nth(nth);

/** A figure as it is typed and as it is shown, with its minus sign. */
const plain = (value: string): string => value.replace('−', '-');
const alike = (a: string, b: string): boolean =>
  a === b || (a !== '' && b !== '' && Number(plain(a)) === Number(plain(b)));

async function ready(page: Page, path: string): Promise<void> {
  await page.goto(path);
  await page
    .getByText(/^Saved/)
    .first()
    .waitFor({ timeout: 60_000 });
  const failed = page.getByText('Something went wrong on this page');
  if (await failed.isVisible())
    throw new Error(`${path}: ${await page.getByRole('alert').first().innerText()}`);
}

/** Looks for what was typed in the life before. */
async function lookBack(page: Page, lives: Lives): Promise<void> {
  for (const field of lives.fields) {
    const target = box(page, field);
    await target.waitFor({ timeout: 30_000 });
    // What stood in a field when the plug was pulled is a draft, and is handed over first.
    let now = await target.inputValue();
    const must = field.typed.findLastIndex((t) => t.acknowledged);
    const good = (value: string): boolean =>
      field.typed.slice(Math.max(0, must)).some((t) => alike(t.value, value));
    for (let k = 0; k < 10 && must >= 0 && !good(now); k += 1) {
      await page.waitForTimeout(200);
      now = await target.inputValue();
    }
    if (must >= 0 && !good(now))
      lives.troubles.push(
        `kill ${lives.kills}: ${field.path} “${field.label}” is “${now}”; “${field.typed[must].value}” was kept before`,
      );
  }
  lives.fields = [];
}

/** Types into some fields of the page, noting what the page says is saved and what is older than a second. */
async function type(page: Page, lives: Lives, path: string, random: () => number): Promise<void> {
  const there = await fieldsOf(page);
  if (there.length === 0) return;
  const fields = new Map<string, Field>();
  const count = 1 + Math.floor(5 * random());
  for (let k = 0; k < count; k += 1) {
    const chosen = there[Math.floor(random() * there.length)];
    const key = `${chosen.label} ${chosen.nth}`;
    const field = fields.get(key) ?? { path, label: chosen.label, nth: chosen.nth, typed: [] };
    const before = field.typed.at(-1)?.value ?? chosen.value;
    if (chosen.decimal && !Number.isFinite(parseFloat(before))) continue;
    const value = chosen.decimal
      ? String(Number((parseFloat(before) + (random() < 0.5 ? 1 : -1)).toFixed(1)))
      : `said ${Math.floor(1e6 * random())}`;
    await box(page, chosen).fill(value);
    field.typed.push({ value, atMs: Date.now(), acknowledged: false });
    fields.set(key, field);
    lives.edits += 1;
    if (random() < 0.4 && !chosen.lines) await box(page, chosen).press('Enter');
    if (random() < 0.7) await page.waitForTimeout(700 * random());
    // A number that the field refuses is a draft, and no edit.
    if (chosen.decimal && (await box(page, chosen).getAttribute('aria-invalid')) === 'true')
      fields.delete(key);
    if (await page.getByText('Saved on this device').isVisible())
      for (const f of fields.values()) for (const t of f.typed) t.acknowledged = true;
  }
  lives.fields = [...fields.values()];
  lives.lookAt = path;
}

/** A film is tracked, and the plug pulled on the way. */
async function trackFilm(page: Page): Promise<void> {
  await ready(page, '/sessions/idris-1/track');
  const button = page.getByRole('button', { name: /^Track/ });
  await button.click({ timeout: 60_000 });
}

/** A backup is brought back over what is here, and the plug pulled on the way. */
async function restore(page: Page): Promise<void> {
  await ready(page, '/backup');
  await page.getByTestId('backup-file').setInputFiles('e2e/files/backup-v9.zip');
  await page.getByTestId('backup-seen').waitFor({ timeout: 60_000 });
  await page.getByText('have both').click();
  await page.getByRole('button', { name: 'Bring back' }).click();
}

/** The newest copy of a rider goes into the trash and is erased there. */
async function erase(page: Page): Promise<void> {
  await ready(page, '/');
  const riders = page.getByRole('heading', { name: 'Idris Bellweather' });
  if ((await riders.count()) < 2) return;
  await riders.last().click();
  await page.waitForURL(/riders|sessions/);
  if (/sessions/.test(page.url()))
    await page.locator('header').getByRole('link', { name: 'Idris Bellweather' }).click();
  if (/riders\/idris$/.test(page.url())) return;
  await page.getByRole('button', { name: 'Delete this rider…' }).click();
  await page.getByRole('button', { name: 'Move to trash' }).click();
  await page.goto('/trash');
  await page.getByRole('button', { name: 'Erase now…' }).first().click();
  await page.getByRole('button', { name: 'Erase', exact: true }).click();
}

/**
 * One life of the browser: it starts, what was typed before is looked for, something is begun, and it is killed in the middle.
 * @param seed of this life: the same one does the same things
 */
export async function oneKill(lives: Lives, baseURL: string, seed: number): Promise<void> {
  const random = seededRandom(seed);
  const context = await open(lives.profile, baseURL);
  let killedAtMs = Infinity;
  try {
    const page = context.pages()[0] ?? (await context.newPage());
    await ready(page, lives.lookAt ?? '/');
    await lookBack(page, lives);
    lives.lookAt = null;
    const what = random();
    if (what < 0.06) await trackFilm(page);
    else if (what < 0.1) await restore(page);
    else if (what < 0.15) await erase(page);
    else {
      const path = `/sessions/${VISITS[Math.floor(random() * VISITS.length)]}/${STATIONS[Math.floor(random() * STATIONS.length)]}`;
      await ready(page, path);
      await page.locator('main').waitFor();
      await page.waitForTimeout(300);
      await type(page, lives, path, random);
    }
    await page.waitForTimeout(1400 * random() ** 2);
    killedAtMs = Date.now();
  } catch (error) {
    lives.troubles.push(`kill ${lives.kills + 1}: ${(error as Error).message.split('\n')[0]}`);
  } finally {
    killAll(lives.profile);
    await context.close().catch(() => undefined);
    lives.kills += 1;
  }
  for (const field of lives.fields)
    for (const t of field.typed) if (t.atMs < killedAtMs - 1000) t.acknowledged = true;
}
