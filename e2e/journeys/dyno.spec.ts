import { expect, step, test } from '../test.js';

test('pulls stand beside what was forecast, by one standard; what they teach is used in every verdict', async ({
  page,
}) => {
  await page.goto('/match?build=slate-six');
  await step(page, 'Dyno').click();
  await expect(page.getByRole('heading', { name: 'Dyno' })).toBeVisible();
  await page.getByRole('button', { name: /^417, first pull/ }).click();
  await expect(page.getByRole('img', { name: 'Power over engine speed' })).toBeVisible();
  // By SAE J607 the sheet reads some 4 % more than SAE J1349 in this air.
  const common = page.getByRole('row', { name: /^peak by SAE J1349/ });
  await expect(common).toBeVisible();
  await expect(page.getByRole('row', { name: /^Peak flow power/ })).toContainText(/made [+−]\d+\s%, in its range/);
  await expect(page.getByRole('row', { name: /^mean of 2 pulls alike/ })).toContainText(/± 0\.\d\s%/);
  await common.getByRole('button').click();
  const working = page.getByRole('dialog', { name: 'The working' });
  await expect(working).toContainText('Correction by SAE J607');
  await expect(working).toContainText('Vapour pressure of the air');
  await page.keyboard.press('Escape');

  // The shop's own factor takes the place of the usual one everywhere, in one change that can be undone.
  const own = page.getByRole('row', { name: /own power per flow, from 2 engines/ });
  await expect(own).toContainText(/0\.2\d\d\shp\/cfm/);
  await own.getByRole('button', { name: 'Use it in every verdict' }).click();
  await expect(page.getByText(/Power per flow is the shop’s own now/)).toBeVisible();
  await step(page, 'Target').click();
  await page
    .getByRole('row', { name: /^flow each port must carry/ })
    .getByRole('button')
    .click();
  await expect(working).toContainText('the shop’s own');
});

test.describe('a pull of one’s own', () => {
  test('a pull is pasted as the dyno printed it; no unit is silent, bad lines are named, and nothing is lost', async ({
    page,
  }) => {
    await page.goto('/dyno?build=slate-six');
    await page.getByRole('button', { name: '+ new pull' }).click();
    await page.getByLabel('Name of the pull').fill('Friday, third');
    await page
      .getByLabel('Paste the table: rpm with power, torque or both')
      .fill('Engine speed;Power;Lambda\n4000;220,5;0,88\nfast;1;1\n4800;258,0;0,87\n5600;281,5;0,86\n');
    await expect(page.getByText('The column of power names no unit: it is read as hp.')).toBeVisible();
    await expect(page.getByText('Left out: “Lambda”.')).toBeVisible();
    await expect(page.getByText(/^line 3: speed/)).toBeVisible();
    await expect(page.getByText(/^3 rows, 4000 rpm to 5600 rpm/)).toBeVisible();
    await page.getByLabel('Barometer').fill('3 bar');
    await page.getByLabel('Barometer').blur();
    await expect(page.getByText(/A barometer stands between/)).toBeVisible();
    await page.getByLabel('Barometer').fill('29.2 inHg');
    await page.getByLabel('Air temperature').fill('75 °F');
    // A file is read by the same reader; one that is none says so and changes nothing.
    await page.locator('input[type=file]').setInputFiles({
      name: 'photo.xlsx',
      mimeType: 'application/octet-stream',
      buffer: Buffer.from('no workbook'),
    });
    await expect(page.getByText(/photo.xlsx cannot be read/)).toBeVisible();
    await expect(page.getByText(/^3 rows, 4000 rpm to 5600 rpm/)).toBeVisible();
    // What is typed is still there after the page was left.
    await page.reload();
    await page.getByRole('button', { name: '+ new pull' }).click();
    await expect(page.getByLabel('Name of the pull')).toHaveValue('Friday, third');
    await page.getByRole('button', { name: 'Save the pull' }).click();
    await expect(page.getByText('Friday, third saved.')).toBeVisible();
    // Nobody said which standard: the band between two of them is offered, nothing is converted.
    await expect(page.getByText(/^282\shp at 5,?600\srpm, nobody says by which standard/)).toBeVisible();
    await expect(page.getByText(/If it is SAE J607, SAE J1349 would say about 271\shp/)).toBeVisible();
    await page.getByLabel('Its figures are by').selectOption('SAE J1349');
    await page.getByRole('button', { name: 'Save the pull' }).click();
    await expect(page.getByRole('row', { name: /^peak by SAE J1349/ })).toContainText(/282\shp/);
    await page.getByRole('button', { name: 'Remove this pull' }).click();
    await expect(page.getByText('Friday, third removed.')).toBeVisible();
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(page.getByRole('button', { name: /^Friday, third/ })).toBeVisible();
  });

  test('a row whose power and torque disagree is asked about; wheels are held against nothing', async ({ page }) => {
    await page.goto('/dyno?build=slate-six');
    await page.getByRole('button', { name: '+ new pull' }).click();
    await page.getByLabel('Name of the pull').fill('Rolling road');
    await page
      .getByLabel('Paste the table: rpm with power, torque or both')
      .fill('rpm,hp,lb ft\n4000,220,288.9\n5000,262,310\n');
    await page.getByLabel('Taken on').selectOption('chassis dyno');
    await page.getByRole('button', { name: 'Save the pull' }).click();
    await expect(page.getByText(/At 5000\srpm the power reads 262\shp and the torque makes 295\shp/)).toBeVisible();
    await expect(page.getByText(/Power at the wheels is another quantity/)).toBeVisible();
    await expect(page.getByRole('row', { name: /^Peak flow/ })).toHaveCount(0);
  });
});
