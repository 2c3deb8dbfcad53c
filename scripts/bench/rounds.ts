import { readFileSync } from 'node:fs';
import type { Browser } from '@playwright/test';

export interface Rounds {
  rounds: number;
  /** After some rounds, so that what is made once is made, and after the last. */
  nodes: [early: number, late: number];
  heapMb: [early: number, late: number];
  /** What the page's own process holds. */
  processMb: [early: number, late: number];
  /** Workers that are alive when it is over. */
  workers: number;
}

const ROUNDS = 40;
const EARLY = 8;

/** Film, Track and Read, round after round: what stays behind of them. */
export async function measureRounds(browser: Browser, baseURL: string): Promise<Rounds> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, baseURL });
  const page = await context.newPage();
  await page.goto('/sessions/juno-1/film');
  const cdp = await context.newCDPSession(page);
  const whole = await browser.newBrowserCDPSession();
  const { processInfo } = (await whole.send('SystemInfo.getProcessInfo')) as {
    processInfo: { type: string; id: number; cpuTime: number }[];
  };
  // The page that was just drawn is the renderer that has worked the most.
  const pid = processInfo.filter((p) => p.type === 'renderer').sort((a, b) => b.cpuTime - a.cpuTime)[0].id;
  const privateMb = (): number =>
    Number(/^RssAnon:\s+(\d+)/m.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1]) / 1024;
  const look = async (): Promise<[number, number, number]> => {
    for (let k = 0; k < 3; k += 1) await cdp.send('HeapProfiler.collectGarbage');
    const { nodes } = await cdp.send('Memory.getDOMCounters');
    const { usedSize } = await cdp.send('Runtime.getHeapUsage');
    return [nodes, usedSize / 1e6, privateMb()];
  };
  let early: [number, number, number] = [0, 0, 0];
  for (let k = 1; k <= ROUNDS; k += 1) {
    await page.getByRole('link', { name: /^4 Film/ }).click();
    await page.getByRole('region', { name: 'Set-up check' }).waitFor();
    await page.getByTestId('frame-readout').waitFor();
    await page.getByRole('link', { name: /^7 Track/ }).click();
    await page.getByTestId('lost-hip').waitFor();
    await page.getByTestId('frame-readout').waitFor();
    await page.getByRole('link', { name: /^8 Read/ }).click();
    await page.getByTestId('knee-min').waitFor();
    await page.waitForTimeout(300);
    if (k === EARLY) early = await look();
  }
  const late = await look();
  const workers = page.workers().length;
  await context.close();
  return {
    rounds: ROUNDS,
    nodes: [early[0], late[0]],
    heapMb: [early[1], late[1]],
    processMb: [early[2], late[2]],
    workers,
  };
}
