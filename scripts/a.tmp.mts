import { look } from './look.tmp.mts';
await look(async (page) => {
  await page.goto('/sessions/juno-1/read');
  await page.getByTestId('knee-min').waitFor();
  await page.waitForTimeout(2500);
  await page.screenshot({ path: '/tmp/s1.png' });
  const go = async (name: string, file: string) => {
    await page.getByRole('region', { name }).first().evaluate((e) => e.scrollIntoView());
    await page.waitForTimeout(300);
    await page.screenshot({ path: file });
  };
  await go('The body in millimetres', '/tmp/s2.png');
  await page.getByRole('button', { name: 'What is behind the ± of Knee at its most bent' }).click();
  await go('Findings', '/tmp/s3.png');
  await page.getByRole('button', { name: 'Type readings in' }).click();
  await page.getByLabel('Knee, right').fill('27');
  await page.getByLabel('Knee, right').press('Enter');
  await go('Goniometer readings', '/tmp/s4.png');
});
