import type { Locator } from '@playwright/test';
import { expect, test, type Page } from './watched.ts';
import { shortFilm } from './shortFilm.ts';
import { truthOf } from './studio.ts';

/** How a visit is worked: what is done to a control, and how a field comes to be written in. */
interface Hand {
  press: (control: Locator) => Promise<void>;
  write: (field: Locator, text: string) => Promise<void>;
}

/** Tab to a control, forwards or back, whichever is nearer; nothing is ever pointed at. */
async function tabTo(page: Page, control: Locator): Promise<void> {
  await control.waitFor();
  const back = await control.evaluate((el) => {
    const from = document.activeElement;
    return from !== null && (from.compareDocumentPosition(el) & Node.DOCUMENT_POSITION_PRECEDING) !== 0;
  });
  // Found once, and again only where it was drawn anew: to look for a name takes longer than the key.
  let target = (await control.elementHandle())!;
  for (let k = 0; k < 160; k += 1) {
    const at = await target.evaluate((el) => ({
      isDrawn: el.isConnected,
      has: el === document.activeElement,
    }));
    if (at.has) return;
    if (!at.isDrawn) target = (await control.elementHandle())!;
    await page.keyboard.press(back ? 'Shift+Tab' : 'Tab');
  }
  throw new Error(`not reached by Tab: ${String(control)}`);
}

const byKeys = (page: Page): Hand => ({
  press: async (control) => {
    await tabTo(page, control);
    await page.keyboard.press('Enter');
  },
  write: async (field, text) => {
    await tabTo(page, field);
    await page.keyboard.press('Control+a');
    await page.keyboard.type(text);
    await page.keyboard.press('Tab');
  },
});

const byTouch: Hand = {
  press: (control) => control.tap(),
  write: async (field, text) => {
    await field.tap();
    await field.fill(text);
    await field.blur();
  },
};

/** From the first look at the rider to the papers they take home. */
async function wholeVisit(page: Page, { press, write }: Hand, name: string): Promise<void> {
  const truth = truthOf('pilar');
  const button = (of: string | RegExp) => page.getByRole('button', { name: of });
  const station = (of: RegExp) => page.getByRole('link', { name: of });
  await page.goto('/');
  await press(button('New rider…'));
  await write(page.getByLabel('Name'), name);
  await press(button('Start the visit'));

  // Intake: asked for what must be seen by somebody else, agreed to be filmed.
  await press(button('Asked: none of them'));
  await press(button('Record the consent'));
  await button('Withdraw').waitFor();

  await press(station(/^2 Body/));
  await write(page.getByLabel('Inseam', { exact: false }).first(), '812');

  await press(station(/^3 Bike/));
  await write(page.getByLabel('Wheelbase', { exact: false }).first(), `${truth.wheelbaseMm}`);
  await write(page.getByLabel('Crank length', { exact: false }).first(), `${truth.crankMm}`);
  await write(page.getByLabel('Height to bottom bracket', { exact: false }).first(), '702');

  await press(station(/^4 Film/));
  const [chooser] = await Promise.all([page.waitForEvent('filechooser'), press(button('Choose a film…'))]);
  await chooser.setFiles(await shortFilm('pilar'));
  await expect(page.getByTestId('film-verdict')).toContainText('Good film', { timeout: 90_000 });
  await press(page.getByRole('button', { name: 'Measure', exact: true }));
  await page.waitForURL(/read$/, { timeout: 90_000 });
  await expect(page.getByTestId('strokes')).toContainText('5');

  await press(station(/^9 Plan/));
  await page.getByTestId('advice').waitFor();
  await press(button('Keep this plan'));
  await page.getByTestId('kept-plan').waitFor();

  // The first step on the bike, ridden, with the rider's word.
  await press(station(/^10 Trial/));
  await press(button('Something else…'));
  const dialog = page.getByRole('dialog', { name: 'Something else' });
  await write(dialog.getByLabel('Saddle height, to'), '706');
  await press(dialog.getByRole('button', { name: 'On the bike' }));
  await page.getByTestId('being-ridden').waitFor();
  await press(button(/^better/));
  await expect(page.getByTestId('being-ridden')).toHaveCount(0);

  await press(station(/^11 Hand over/));
  const [paper] = await Promise.all([page.waitForEvent('download'), press(button('Save as PDF'))]);
  expect(paper.suggestedFilename()).toMatch(/\.pdf$/);
}

// As it moves for most: what slides or fades must not be in the way of hand or key.
test.use({ contextOptions: { reducedMotion: 'no-preference' } });

test('a whole visit by keys alone', async ({ page }) => {
  test.setTimeout(400_000);
  await wholeVisit(page, byKeys(page), 'Anselm Rook');
});

test.describe('on a tablet', () => {
  test.use({ viewport: { width: 820, height: 1180 }, hasTouch: true });
  test('a whole visit by touch', async ({ page }) => {
    test.setTimeout(400_000);
    await page.addInitScript(() => {
      window.addEventListener('pointerdown', (e) => {
        if (e.pointerType !== 'touch') document.documentElement.dataset.pointed = e.pointerType;
      });
    });
    await wholeVisit(page, byTouch, 'Ottilie Brandt');
    expect(await page.evaluate(() => document.documentElement.dataset.pointed)).toBeUndefined();
    const wide = await page.evaluate(() => document.documentElement.scrollWidth - innerWidth);
    expect(wide).toBeLessThanOrEqual(0);
  });
});
