import { readFile } from 'node:fs/promises';
import sharp from 'sharp';
import type { Page } from '@playwright/test';
import { choose, dropFile, expect, go, oneOf, pick, test } from '../test.js';

test('the planted over-claim is found, the fair catalogue only reads high, the other bore is not compared', async ({
  page,
}) => {
  await go(page, '/claims/ottermoor-230');
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
  await go(page, '/claims/pellam-p6?stage=p6-received');
  await expect(page.getByText(/Agrees as benches do: .* high on average/)).toBeVisible();
  await expect(page.getByRole('row', { name: /chamber volume.*matters/ })).toBeVisible();
  await go(page, '/claims/longreach-212?side=exhaust');
  await expect(page.getByText('They cannot be compared: bore differs.')).toBeVisible();
  // The catalogue reads high on both its heads, as benches do, and as its source does on the other.
  await go(page, '/claims/pellam-190');
  await expect(page.getByText(/on 1 other head it holds as well/)).toBeVisible();
  await go(page, '/claims/corrow-417?stage=417-received');
  await expect(page.getByText(/nearest to port 3, the best of the 2 runners measured/)).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Side by side, intake' })).toBeVisible();
});

test('sources against the bench: offsets, what ties them, and a figure read through one', async ({ page }) => {
  await go(page, '/claims/pellam-p6?pane=sources&side=exhaust');
  await expect(page.getByText(/Nothing ties .*Ottermoor flyer/)).toBeVisible();
  await expect(page.getByRole('row', { name: /Ottermoor flyer not tied/ })).toBeVisible();
  await expect(page.getByText(/Ask .*Ottermoor flyer.* whether the exhaust was bare or piped/)).toBeVisible();
  await expect(
    page.getByText(/Longreach 212 .*piped, tested now on your own bench, would tie Ferrule & Dray sheet/),
  ).toBeVisible();
  await oneOf(page, 'intake').click();
  await expect(page.getByRole('row', { name: /Quayside Flow Room .*\+3\.0\s%/ })).toBeVisible();
  await pick(page.getByLabel('Source', { exact: true }), 'Quayside Flow Room');
  await page.getByLabel('Its figure').fill('208');
  await expect(page.getByText(/On our bench that would be about/)).toContainText(/20[12]\.\d\s+cfm/);
  await expect(page.getByRole('row', { name: /^417 early, as received/ })).toContainText(/185\.\d.*180\.\d/s);
  await page.getByLabel('Its figure').fill('lots');
  await expect(page.getByText(/is not a flow/)).toBeVisible();
  await pick(page.getByLabel('Lifts'), 'up to .300 in');
  await expect(page.getByRole('row', { name: /Quayside Flow Room/ })).toBeVisible();
});

test('every claim in one table, saved as CSV; a new claim typed as a sheet is judged', async ({ page, server }) => {
  await go(page, '/claims/pellam-p6?pane=library');
  await expect(page.getByRole('row', { name: /OM-230 intake flow beyond anything measured/ })).toBeVisible();
  await expect(page.getByRole('row', { name: /P6-205 chamber volume low Stated 64\.0 cc, found 67\.5/ })).toBeVisible();
  await expect(page.getByRole('row', { name: /OM-230 power not believable/ })).toBeVisible();
  await expect(page.getByText('3 claims, 2 doubtful', { exact: true })).toBeVisible();
  // On paper the audit is all there is: no course, no lineup, no buttons.
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByRole('navigation', { name: 'Steps of the work' })).toBeHidden();
  await expect(page.getByRole('button', { name: 'Print this page' })).toBeHidden();
  await expect(page.getByRole('row', { name: /OM-230 power not believable/ })).toBeVisible();
  await page.emulateMedia({ media: 'screen' });
  await page.getByText('Only what is doubtful').click();
  await expect(page.getByRole('heading', { name: /Ferrule & Dray sheet/ })).toBeHidden();
  await page.getByText('Only what is doubtful').click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Export the audit as CSV' }).click(),
  ]);
  expect(await readFile((await download.path())!, 'utf8')).toContain('Pellam catalogue,P6-205,exhaust,flow');
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
  await go(page, '/claims/corrow-522');
  await expect(page.getByText(/Impossible at \.100: no valve of this size/)).toBeVisible();
  await go(page, '/claims/corrow-522?side=exhaust');
  await expect(page.getByText(/Nobody claims a flow of this head on the exhaust side/)).toBeVisible();
});

/** Where a lift (in) and a flow (cfm) lie in the picture below: both axes lean, and not alike. */
const leaning = (lift: number, flow: number) => [90 + lift * 1000 + flow * 0.24, 470 + lift * 60 - flow * 1.6] as const;
const PUBLISHED: readonly (readonly [lift: number, flow: number])[] = [
  [0.1, 57],
  [0.2, 115],
  [0.3, 162],
  [0.4, 186],
  [0.5, 194],
];
/** A chart as a phone would take it, drawn by the map above. */
function chartPicture(): Promise<Buffer> {
  const line = (...points: (readonly [number, number])[]) => `<polyline points="${points.join(' ')}"/>`;
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="800" height="560" fill="none" stroke="#333">
    <rect width="800" height="560" fill="#faf8f2"/>
    ${line(leaning(0, 0), leaning(0.6, 0))}${line(leaning(0, 0), leaning(0, 250))}
    ${line(...PUBLISHED.map(([l, q]) => leaning(l, q)))}</svg>`;
  return sharp(Buffer.from(svg)).png().toBuffer();
}
/** Clicks a place of the chart, in the picture's own pixels. */
async function clickAt(page: Page, [x, y]: readonly [number, number]): Promise<void> {
  const [a, d, e, f] = await page.getByLabel('Chart to read').evaluate((svg) => {
    const m = (svg as SVGSVGElement).getScreenCTM()!;
    return [m.a, m.d, m.e, m.f] as const;
  });
  await page.mouse.click(e + x * a, f + y * d);
}

test('a chart whose axes lean is read from its picture, kept over a reload, opened again and moved', async ({
  page,
}) => {
  await go(page, '/claims/pellam-190r');
  await page.getByRole('button', { name: 'Read it off a chart' }).click();
  const dialog = page.getByRole('dialog', { name: 'Read a chart' });
  const take = dialog.getByRole('button', { name: 'Take these figures' });
  const file = dialog.locator('input[type=file]');
  await file.setInputFiles({ name: 'chart.txt', mimeType: 'text/plain', buffer: Buffer.from('x') });
  await expect(dialog.getByText('“chart.txt” is no picture this program takes')).toBeVisible();
  await file.setInputFiles({ name: 'chart.png', mimeType: 'image/png', buffer: await chartPicture() });
  await expect(dialog.getByText(/Click a place on the lift axis whose value is printed/)).toBeVisible();
  await expect(take).toBeDisabled();

  // The value's own field has the cursor once its place is clicked.
  await clickAt(page, leaning(0, 0));
  await expect(dialog.getByLabel('first lift printed')).toBeFocused();
  await page.keyboard.insertText('wide');
  await expect(dialog.getByText(/“wide” is not a lift/)).toBeVisible();
  await dialog.getByLabel('first lift printed').fill('0');
  await clickAt(page, leaning(0.5, 0));
  await page.keyboard.insertText('.500');
  await clickAt(page, leaning(0, 0));
  await page.keyboard.insertText('0');
  // A second place on the wrong axis is told; it is set anew.
  await clickAt(page, leaning(0.5, 0));
  await page.keyboard.insertText('250');
  await expect(
    dialog.getByText('The lift axis and the flow axis run the same way: set their points anew.'),
  ).toHaveCount(2);
  await dialog.getByRole('button', { name: 'Set the second flow anew' }).click();
  await clickAt(page, leaning(0, 250));
  await expect(dialog.getByText(/The axes meet at 8\d°, and each point is read along them/)).toBeVisible();
  for (const [lift, flow] of PUBLISHED) await clickAt(page, leaning(lift, flow));
  await expect(dialog.getByRole('row', { name: /intake \.300 16[12]\.\d cfm/ })).toBeVisible();

  // Nothing is lost over a reload.
  await page.reload();
  await page.getByRole('button', { name: 'Read it off a chart' }).click();
  await expect(dialog.getByRole('row')).toHaveCount(5);
  // A slip by keyboard: arrows move the cross, Space sets a point, Delete takes the chosen one out.
  const svg = dialog.getByLabel('Chart to read');
  await svg.focus();
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Space');
  await expect(dialog.getByRole('row')).toHaveCount(6);
  await dialog.getByRole('button', { name: 'Undo' }).click();
  await expect(dialog.getByRole('row')).toHaveCount(5);
  await pick(dialog.getByLabel('Published by'), 'Pellam catalogue');
  await dialog.getByLabel('Title').fill('Chart on page 12');
  await take.click();
  await expect(dialog).toBeHidden();
  await expect(page.getByText(/Chart on page 12: 5 lifts read off the chart/)).toBeVisible();
  // Read within a pixel of what was drawn, and judged like any other claim.
  await expect(page.getByRole('row', { name: /^\.400 / })).toContainText(/18[567]\.\d.*177\.\d.*\+[45]\.\d.*holds/s);
  await expect(page.getByText(/depression, bore, entry, valves and port are not known for both/)).toBeVisible();

  // Its points stay editable: the last one is moved down, and the table follows.
  await page.getByRole('button', { name: 'Its chart' }).click();
  await expect(dialog.getByRole('row')).toHaveCount(5);
  await dialog.getByRole('row', { name: /\.500/ }).click();
  await svg.focus();
  for (let i = 0; i < 2; i++) await page.keyboard.press('Shift+ArrowDown');
  await dialog.getByRole('button', { name: 'Read it again' }).click();
  await expect(dialog).toBeHidden();
  await expect(page.getByRole('row', { name: /^\.(49|50)\d / })).toContainText(/1(7\d|8[0-3])\.\d.*183\.\d/s);
});

test('many claims from a CSV: what is wrong stops it line by line, what is odd is asked, then it comes in whole', async ({
  page,
}) => {
  await go(page, '/claims/ottermoor-230');
  await expect(page.getByRole('heading', { name: /^Ottermoor flyer/ })).toBeVisible();
  const csv = (rows: string) => `source,head,side,lift,flow,item,value\n${rows}`;
  await dropFile(
    page,
    'bad.csv',
    csv('Slackwater board,OM-230,intake,,250,,\nSlackwater board,OM-230,intake,.300,wind,,\n'),
  );
  const dialog = page.getByRole('dialog', { name: 'Import bad.csv' });
  await expect(dialog.getByText('A flow without its lift claims nothing: at which lift?')).toBeVisible();
  await expect(dialog.getByText(/line 3, flow/)).toBeVisible();
  await expect(dialog.getByRole('button', { name: 'Import' })).toBeDisabled();
  await page.keyboard.press('Escape');
  await dropFile(
    page,
    'good.csv',
    csv(
      'Slackwater board,OM-230,intake,.300,159,,\nSlackwater board,OM-230,intake,.500,211,,\nSlackwater board,OM-230,intake,1.300,216,,\nSlackwater board,OM-230,,,,chamber volume,65.2\n',
    ),
  );
  const good = page.getByRole('dialog', { name: 'Import good.csv' });
  await expect(good.getByRole('row', { name: 'flow sheets 1' })).toBeVisible();
  await expect(good.getByText(/Lift 1\.300 lies beyond half the valve’s diameter/)).toBeVisible();
  await good.getByRole('button', { name: 'Import' }).click();
  await expect(good).toBeHidden();
  await expect(page.getByRole('heading', { name: /^Slackwater board/ })).toBeVisible();
  await expect(page.getByText(/Lift 1\.300 lies beyond half/)).toBeVisible();
  await expect(page.getByRole('row', { name: /chamber volume Slackwater board 65\.2/ })).toBeVisible();
  // The same file again brings nothing new.
  await dropFile(page, 'good.csv', csv('Slackwater board,OM-230,,,,chamber volume,65.2\n'));
  await expect(page.getByText('All of it is here already.')).toBeVisible();
});

test('a rumour is put to the test, and closed only with reasons and evidence', async ({ page }) => {
  await go(page, '/claims/pellam-p6?pane=questions');
  await expect(page.getByText('The 522 is the same head as the 417')).toBeVisible();
  await expect(page.getByRole('link', { name: '417 early: chamber volume 66.8 cc, as received' })).toBeVisible();
  await page.getByRole('button', { name: 'Ask a question' }).click();
  await page.getByRole('button', { name: 'Save the question' }).isDisabled();
  await page.getByLabel('The claim or rumour, in one line').fill('The chamber is 64 cc as the catalogue says.');
  await pick(page.getByLabel('Said by'), 'Pellam catalogue');
  await page.getByRole('button', { name: 'Save the question' }).click();
  const mine = page.getByRole('article').filter({ hasText: 'The chamber is 64 cc' });
  await expect(mine.getByText('open', { exact: true })).toBeVisible();
  await mine.getByRole('button', { name: /^Settle it/ }).click();
  await pick(page.getByLabel('How it stands'), 'it is false');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Say why it is closed like this.').first()).toBeVisible();
  await page.getByLabel('Why', { exact: true }).fill('67.5 cc poured twice.');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText(/True or false needs evidence/).first()).toBeVisible();
  await pick(page.getByLabel('Add as evidence'), 'P6-205: chamber volume 67.5 cc, as received');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(mine.getByText('false', { exact: true })).toBeVisible();
  await expect(mine.getByText(/closed \d{4}-\d\d-\d\d/)).toBeVisible();
  await mine.getByRole('link', { name: /chamber volume 67\.5/ }).click();
  await expect(page).toHaveURL(/\/heads\/pellam-p6\?stage=p6-received/);
});

test('same or different: two numbers for one casting, two castings under one number, two ports', async ({ page }) => {
  await go(page, '/claims/corrow-522?pane=same');
  await expect(page.getByText('These are one and the same')).toBeVisible();
  await choose(page, 'the other', '417 early, Corrow');
  await expect(page.getByText(/^Different: exhaust valve diameter \(1\.550/)).toBeVisible();
  await expect(page.getByRole('row', { name: /^exhaust valve diameter/ })).toBeVisible();
  await page.getByRole('button', { name: /multiple of repeatability: 12\.7/ }).click();
  await expect(page.getByRole('dialog', { name: 'The working' })).toContainText('JCGM 100:2008');
  await go(page, '/claims/pellam-190?pane=same&other=pellam-190r');
  await expect(page.getByText(/^Not told apart: of \d+ things/)).toBeVisible();
  // What was explained there does not stand here.
  await expect(page.getByRole('dialog', { name: 'The working' })).toBeHidden();
  await go(page, '/claims/corrow-417?pane=same&stage=417-received&otherStage=417-received');
  await pick(page.getByLabel('its port', { exact: true }), 'port 1');
  await pick(page.getByLabel('its port, the other'), 'port 3');
  await expect(page.getByText(/^Different: intake/)).toBeVisible();
  await expect(page).toHaveURL(/port=1&otherPort=3/);
});

test('a claimed power is held against the head; a source says how it tests, and a claim takes it over', async ({
  page,
}) => {
  await go(page, '/claims/longreach-212');
  await page.getByRole('button', { name: 'A power' }).click();
  await page.getByLabel('Power claimed').fill('a lot');
  await page.getByRole('button', { name: 'Add it' }).click();
  await expect(page.getByText(/“a lot” is not a power/).first()).toBeVisible();
  await page.getByLabel('Power claimed').fill('460 hp');
  await page.getByLabel('at', { exact: true }).fill('5800');
  await page.getByRole('button', { name: 'Add it' }).click();
  await expect(page.getByText(/Not believable: BMEP 24\d\spsi is more than such engines make/)).toBeVisible();
  await page.getByRole('button', { name: /^Remove the report of 460/ }).click();
  await expect(page.getByText(/Not believable/)).toBeHidden();

  await go(page, '/claims/longreach-212?pane=sources');
  await page.getByRole('button', { name: 'Pellam catalogue' }).click();
  await page.getByLabel('Depression', { exact: true }).fill('25');
  await page.getByLabel('Bore', { exact: true }).fill('9 m');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('The bore fixture must lie between 20 and 600 mm.').first()).toBeVisible();
  await page.getByLabel('Bore', { exact: true }).fill('98 mm');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Pellam catalogue saved.')).toBeVisible();

  await go(page, '/heads/pellam-p6?stage=p6-received&sheet=p6-catalogue');
  await expect(page.getByText('Pellam catalogue states of its tests: depression and bore.')).toBeVisible();
  await expect(page.getByLabel('Depression', { exact: true })).toHaveValue('');
  await page.getByRole('button', { name: 'Use it' }).click();
  await expect(page.getByLabel('Bore fixture')).toHaveValue('98 mm');
  await page.getByRole('button', { name: 'Save the sheet' }).click();
  await go(page, '/claims/pellam-p6?stage=p6-received');
  // 60 cfm at 25 in is 63.5 at 28 in: √(28/25) = 1.0583.
  await expect(page.getByRole('row', { name: /^\.100 / }).first()).toContainText('63.5');
  await expect(page.getByText(/reservation: entry, valves and port are not known for both/)).toBeVisible();
});
