import { readFile } from 'node:fs/promises';
import { expect, test } from '../test.js';

test('the planted over-claim is found, the fair catalogue only reads high, the other bore is not compared', async ({
  page,
}) => {
  await page.goto('/claims/ottermoor-230');
  await expect(page.getByText(/Beyond anything measured at .*\.400/)).toBeVisible();
  await expect(page.getByText(/They can be compared with a reservation: depression, bore/)).toBeVisible();
  await page.getByText('What agrees and what does not').click();
  await expect(page.getByText('The bore under the chamber is not known for both.')).toBeVisible();
  await expect(page.getByRole('img', { name: 'Claimed and measured flow per lift' })).toBeVisible();
  await expect(page.getByRole('row', { name: /^\.400 .* beyond anything measured$/ })).toBeVisible();
  await page
    .getByRole('button', { name: /discharge coefficient on minimum area: 0\.8/ })
    .first()
    .click();
  await expect(page.getByRole('dialog', { name: 'The working' })).toContainText('Heywood');
  await page.goto('/claims/pellam-p6?stage=p6-received');
  await expect(page.getByText(/another bench, rather than another head/)).toBeVisible();
  await expect(page.getByRole('row', { name: /chamber volume.*matters/ })).toBeVisible();
  await page.goto('/claims/longreach-212?side=exhaust');
  await expect(page.getByText('They cannot be compared: bore and pipe differ.')).toBeVisible();
});

test('sources against the bench: offsets, what ties them, and a figure read through one', async ({ page }) => {
  await page.goto('/claims/pellam-p6?pane=sources&side=exhaust');
  await expect(page.getByText(/Nothing ties .*Ottermoor flyer/)).toBeVisible();
  await expect(page.getByRole('row', { name: /Ottermoor flyer not tied/ })).toBeVisible();
  await page.getByRole('radio', { name: 'intake' }).click();
  await expect(page.getByRole('row', { name: /Quayside Flow Room \+[34]\.\d % ±/ })).toBeVisible();
  await page.getByLabel('Source', { exact: true }).selectOption({ label: 'Quayside Flow Room' });
  await page.getByLabel('Its figure').fill('208');
  await expect(page.getByText(/On our bench that would be about/)).toContainText(/(199|20[0-2])\.\d\s+cfm/);
  await page.getByLabel('Its figure').fill('lots');
  await expect(page.getByText(/is not a flow/)).toBeVisible();
  await page.getByLabel('Lifts').selectOption({ label: 'up to .300 in' });
  await expect(page.getByRole('row', { name: /Quayside Flow Room/ })).toBeVisible();
});

test('every claim in one table, saved as CSV; a new claim typed as a sheet is judged', async ({ page, server }) => {
  await page.goto('/claims/pellam-p6?pane=library');
  await expect(page.getByRole('row', { name: /Ottermoor flyer OM-230 intake beyond anything measured/ })).toBeVisible();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save the audit as CSV' }).click(),
  ]);
  expect(await readFile((await download.path())!, 'utf8')).toContain('Pellam catalogue,P6-205,exhaust');
  const post = await fetch(`${server.url}/api/sheet`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({
      stageId: '522-received',
      sourceId: 'ottermoor-flyer',
      title: 'A rumour',
      kind: 'claim',
      setup: {},
      rows: [
        { lift: '.100 in', intake: { pulls: ['120 cfm'] } },
        { lift: '.300 in', intake: { pulls: ['150 cfm'] } },
      ],
    }),
  });
  expect(post.status).toBe(201);
  await page.goto('/claims/corrow-522');
  await expect(page.getByText(/Impossible at \.100: no valve of this size/)).toBeVisible();
  await page.goto('/claims/corrow-522?side=exhaust');
  await expect(page.getByText(/Nobody claims a flow of this head on the exhaust side/)).toBeVisible();
});
