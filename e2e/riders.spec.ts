import { expect, test } from './watched.ts';
import { saved, turnTo } from './studio.ts';

test('riders are found and put in order, renamed, come again, go to the trash and come back', async ({
  page,
}) => {
  await page.goto('/');
  await page.getByLabel('Find a rider').fill('obser');
  await expect(page.getByRole('listitem').getByRole('heading')).toHaveText(['Pilar Quist']);
  await page.getByLabel('Find a rider').fill('nobody here');
  await expect(page.getByText('No rider’s name, note, bike or complaint has “nobody here”.')).toBeVisible();
  await page.getByLabel('Find a rider').fill('');
  await page.getByRole('button', { name: 'name', exact: true }).click();
  await expect(page.getByRole('listitem').getByRole('heading').first()).toHaveText('Idris Bellweather');
  await page.getByRole('button', { name: 'worst complaint' }).click();
  await expect(page.getByRole('listitem').getByRole('heading').last()).toHaveText('Juno Achterberg');

  await page.getByRole('link', { name: 'Idris Bellweather: visits and record' }).click();
  await page.getByLabel('Name').fill('   ');
  await page.getByLabel('Name').press('Enter');
  await expect(page.getByRole('alert')).toContainText('Type the rider’s name.');
  await page.getByLabel('Name').fill('Idris B. Bellweather');
  await page.getByLabel('Name').press('Enter');
  await expect(page.getByRole('banner')).toContainText('Idris B. Bellweather');

  // The next visit has the bike and the complaints of the last one, and no film.
  await page.getByRole('button', { name: 'New visit from this one' }).click();
  await expect(page.getByRole('region', { name: /^Suspects: outside edge of foot/ })).toBeVisible();
  await page.getByRole('link', { name: /^3 Bike/ }).click();
  await expect(page.getByLabel('Height to bottom bracket', { exact: true })).toHaveValue('737');
  await expect(page.getByRole('link', { name: /^4 Film/ })).toContainText('no clip');
  await page.getByRole('link', { name: 'Idris B. Bellweather' }).click();
  await expect(page.getByRole('button', { name: 'New visit from this one' })).toHaveCount(2);

  // A visit to the trash and back.
  await page.getByRole('button', { name: 'Delete…' }).first().click();
  await page.getByRole('button', { name: 'Move to trash' }).click();
  await expect(page.getByRole('button', { name: 'New visit from this one' })).toHaveCount(1);
  await page.getByText('The visit was moved to the trash.').waitFor();
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(page.getByRole('button', { name: 'New visit from this one' })).toHaveCount(2);
  await page.getByRole('button', { name: 'Delete…' }).first().click();
  await page.getByRole('button', { name: 'Move to trash' }).click();
  await expect(page.getByRole('button', { name: 'New visit from this one' })).toHaveCount(1);
  // The rider too: said what goes along.
  await page.getByRole('button', { name: 'Delete this rider…' }).click();
  await expect(page.getByRole('dialog')).toContainText('1 visit and 2 films go with the rider');
  await page.getByRole('button', { name: 'Move to trash' }).click();
  await expect(page.getByRole('heading', { name: 'Idris B. Bellweather' })).toBeHidden();
  await page.getByRole('link', { name: 'Trash (2)' }).click();
  await page.getByRole('button', { name: 'Restore' }).first().click();
  await expect(page.getByText('one visit; deleted for good on')).toBeVisible();
  await page.getByRole('button', { name: 'Erase now…' }).click();
  await page.getByRole('button', { name: 'Erase', exact: true }).click();
  await expect(page.getByText('The trash is empty.')).toBeVisible();
  await page.goto('/');
  await page.getByRole('heading', { name: 'Idris B. Bellweather' }).click();
  await expect(page).toHaveURL(/idris-1/);
  await turnTo(page, '/sessions/idris-1/plan');
  await page.getByTestId('advice').waitFor();
});

test('a first visit: the studio is set up, the samples go and come back, a rider is reached and a visit has its day', async ({
  page,
}) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'Set up your studio…' }).click();
  await page.getByRole('textbox', { name: 'Studio' }).fill('Mill Lane Fits');
  await page.getByLabel('Fitter').fill('Ro Tamsin');
  await page.getByRole('button', { name: 'US Letter' }).click();
  await page.getByRole('button', { name: 'Open the studio' }).click();
  await expect(page.getByRole('region', { name: 'Welcome' })).toBeHidden();
  await expect(page.getByRole('banner')).toContainText('Mill Lane Fits');
  // Sample riders are due and unfinished themselves, and not on the studio’s desk.
  await expect(page.getByRole('region', { name: 'Today' })).toContainText('Nobody is due within the week.');
  await page.getByRole('button', { name: 'Remove the sample riders' }).click();
  await expect(page.getByText('No riders yet.')).toBeVisible();
  // The Undo that is offered does what it says on whatever page it is pressed.
  await turnTo(page, '/settings');
  await page.getByRole('button', { name: 'Undo' }).click();
  await saved(page);
  await turnTo(page, '/');
  await expect(page.getByText('sample', { exact: true })).toHaveCount(4);

  await page.getByRole('button', { name: 'New rider…' }).click();
  await page.getByLabel('Name').fill('Wren Hollis');
  await page.getByRole('button', { name: 'Start the visit' }).click();
  await page.getByRole('link', { name: 'Wren Hollis' }).click();
  await page.getByLabel('Email').fill('no address');
  await page.getByLabel('Email').press('Enter');
  await expect(page.getByRole('alert')).toContainText('An address has one @ and no space.');
  await page.getByLabel('Email').fill('wren@example.org');
  await page.getByLabel('Email').press('Enter');
  await page
    .getByRole('group', { name: 'Day of the visit' })
    .getByRole('spinbutton', { name: 'Day' })
    .fill('3');
  await expect(page.getByRole('alert')).toBeHidden();
  await saved(page);
  await page.reload();
  await expect(page.getByLabel('Email')).toHaveValue('wren@example.org');
  await page.getByRole('link', { name: /Long-distance and gravel/ }).click();
  await page.getByRole('link', { name: /^11 Hand over/ }).click();
  await expect(page.getByRole('link', { name: 'Email…' })).toHaveAttribute(
    'href',
    /^mailto:wren@example\.org\?subject=/,
  );
  await expect(page.getByRole('button', { name: 'Letter', exact: true })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
});

test('a backup goes out, a rider is erased, and comes back from it; a broken file is told', async ({
  page,
}) => {
  await page.goto('/backup');
  await expect(page.getByText('The studio was never saved as a file.')).toBeVisible();
  const coming = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save everything' }).click();
  const file = (await (await coming).path())!;
  await expect(page.getByText(/^Last saved on/)).toBeVisible();

  await turnTo(page, '/riders/juno');
  await page.getByRole('button', { name: 'Delete this rider…' }).click();
  await page.getByRole('button', { name: 'Move to trash' }).click();
  await page.getByRole('link', { name: 'Trash (1)' }).click();
  await page.getByRole('button', { name: 'Erase now…' }).click();
  await page.getByRole('button', { name: 'Erase', exact: true }).click();
  await expect(page.getByText('The trash is empty.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Undo' })).toHaveCount(0);

  await turnTo(page, '/backup');
  await page
    .getByTestId('backup-file')
    .setInputFiles({ name: 'a.zip', mimeType: 'application/zip', buffer: Buffer.from('PK?') });
  await expect(page.getByTestId('backup-seen')).toContainText('0 riders and 0 visits');
  await expect(page.getByTestId('backup-seen').getByRole('alert')).toContainText('the file');
  await page.getByTestId('backup-file').setInputFiles(file);
  await expect(page.getByTestId('backup-seen')).toContainText('4 riders and 5 visits can be restored.');
  await expect(page.getByText('3 riders are here already')).toBeVisible();
  await page.getByRole('button', { name: 'Bring back', exact: true }).click();
  const restoring = page.getByRole('region', { name: 'Restore a backup' });
  await expect(restoring.getByRole('alert')).toContainText('1 rider, 1 visit and 2 films restored.');
  await turnTo(page, '/sessions/juno-1/plan');
  await page.getByTestId('advice').waitFor();
  await turnTo(page, '/sessions/juno-1/film');
  await page.getByTestId('frame-readout').waitFor();

  // Taken in beside what is here: the studio has every rider twice, each with a visit of its own.
  await turnTo(page, '/backup');
  await page.getByTestId('backup-file').setInputFiles(file);
  await page.getByRole('button', { name: 'have both' }).click();
  await page.getByRole('button', { name: 'Bring back', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('4 riders, 5 visits');
  await turnTo(page, '/');
  await expect(page.getByRole('heading', { name: 'Maren Toft' })).toHaveCount(2);
});
