import { look } from './look.tmp.mts';
await look(async (page) => {
  await page.goto('/protocols/road-race');
  await page.getByLabel('Beside').waitFor();
  await page.waitForTimeout(500);
  await page.getByLabel('Beside').click();
  await page.getByRole('option', { name: /Long-distance/ }).click();
  await page.getByLabel('Hip at its most closed, from').fill('50');
  await page.getByLabel('Back above horizontal, from').fill('49');
  await page.screenshot({ path: '/tmp/s1.png' });
  await page.goto('/sessions/juno-1/film');
  await page.getByRole('heading', { name: '2 takes' }).waitFor();
  await page.waitForTimeout(800);
  await page.screenshot({ path: '/tmp/s2.png' });
});
