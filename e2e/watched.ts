import {
  chromium,
  test as plain,
  type Browser,
  type BrowserContext,
  type LaunchOptions,
  type Page,
} from '@playwright/test';

/** What no page and no console may ever show: a figure that is none. */
const NO_FIGURE = /(^|[^A-Za-z])(NaN|Infinity|undefined|\[object Object\])(?![A-Za-z])/;

/** Looks the drawn page over whenever it has changed, and says on the console what is no figure. */
function lookOver(pattern: string): void {
  const noFigure = new RegExp(pattern);
  const seen = new Set<string>();
  const look = (): void => {
    for (const part of document.body?.children ?? []) {
      if (part.tagName === 'SCRIPT') continue;
      const html = part.outerHTML;
      const at = html.search(noFigure);
      if (at < 0) continue;
      const words = html.slice(Math.max(0, at - 160), at + 40);
      if (!seen.has(words)) console.error(`Not a figure on ${location.pathname}: …${words}…`);
      seen.add(words);
    }
  };
  (window as unknown as { lookOver: () => void }).lookOver = look;
  const EVERY_MS = 400;
  let waits = false;
  new MutationObserver(() => {
    if (waits) return;
    waits = true;
    setTimeout(() => {
      waits = false;
      look();
    }, EVERY_MS);
  }).observe(document, { subtree: true, childList: true, characterData: true, attributes: true });
}

function listen(page: Page, troubles: string[]): void {
  page.on('console', (m) => {
    if (NO_FIGURE.test(m.text())) troubles.push(m.text());
  });
  page.on('pageerror', (e) => troubles.push(`Uncaught: ${e.message}`));
}

/** Has every page of a context looked over. @param troubles what was seen comes here, as it comes */
export async function watch(context: BrowserContext, troubles: string[]): Promise<void> {
  await context.addInitScript(lookOver, NO_FIGURE.source);
  context.pages().forEach((page) => listen(page, troubles));
  context.on('page', (page) => listen(page, troubles));
}

/** Every context that a browser opens from now on is watched. @returns as it was before */
function watchAll(browser: Browser, troubles: string[]): () => void {
  const plainly = browser.newContext.bind(browser);
  browser.newContext = async (...args) => {
    const context = await plainly(...args);
    await watch(context, troubles);
    return context;
  };
  return () => {
    browser.newContext = plainly;
  };
}

/** Every interface test fails where a page or a console showed something that is no figure, or an error that nobody caught. */
export const test = plain.extend<{
  troubles: string[];
  watched: void;
  /** A browser of the test's own, watched like the others, and closed in the end. */
  launch: (options: LaunchOptions) => Promise<Browser>;
}>({
  troubles: async ({}, give) => give([]),
  watched: [
    async ({ context, browser, troubles }, give) => {
      await watch(context, troubles);
      const asBefore = watchAll(browser, troubles);
      await give();
      asBefore();
      for (const page of context.pages())
        await page
          .evaluate(() => (window as unknown as { lookOver?: () => void }).lookOver?.())
          .catch(() => undefined);
      plain.expect(troubles, 'what no page may show').toEqual([]);
    },
    { auto: true },
  ],
  launch: async ({ troubles }, give) => {
    const own: Browser[] = [];
    await give(async (options) => {
      const browser = await chromium.launch(options);
      own.push(browser);
      watchAll(browser, troubles);
      return browser;
    });
    for (const browser of own) await browser.close();
    plain.expect(troubles, 'what no page may show').toEqual([]);
  },
});

export { expect, type BrowserContext, type Download, type Page } from '@playwright/test';
