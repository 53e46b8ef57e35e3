/** Several things chosen, moved and set as one; objects of a scene file and an image of another shot brought in. */
import { violationsOf } from './accessible.ts';
import { expect, importJarShelf, type Page, test } from './dusting.ts';
import { stateOf } from './state.ts';

const address = () => process.env.DUSTING_TEST_ADDRESS!;
const CODE = 'TOGETHER-1';
const documentOf = async (page: Page) => (await stateOf(page, CODE)).document;
const scene = (page: Page) => page.getByRole('region', { name: 'Scene' });

const OBJ = ['mtllib box.mtl', 'o zig', 'v 0 0 0', 'v 0.1 0 0', 'v 0.1 0 0.1', 'v 0 0 0.1', 'usemtl red', 'f 4 3 2 1', 'o zag', 'v 0 0.02 0', 'v 0.1 0.02 0', 'v 0.1 0.02 0.1', 'usemtl red', 'f 7 6 5'].join('\n'); // prettier-ignore

test.describe.configure({ mode: 'serial' });

test('two objects are marked, moved by one number and set alike, told in the history, and taken back', async ({
  page,
}) => {
  await importJarShelf(address(), CODE, { width: 64, height: 36, samples: 8 });
  await page.goto(`${address()}/shots/${CODE}?panel=scene`);
  await scene(page).getByRole('textbox', { name: 'Find an item' }).fill('honey, column 1');
  const [first, second] = [0, 1].map((n) =>
    scene(page)
      .getByRole('option', { name: /^honey, column 1/ })
      .nth(n),
  );
  await first.click({ modifiers: ['Control'] });
  await second.click({ modifiers: ['Control'] });
  await expect(scene(page)).toContainText('2 marked');
  await scene(page).getByRole('button', { name: 'Edit together', exact: true }).click();
  await expect(scene(page)).toContainText('2 together');
  const ids = new URL(page.url()).searchParams.get('item')!.split(',').map((one) => one.split('/')[2]); // prettier-ignore
  await scene(page).getByRole('button', { name: 'Group', exact: true }).click();
  await expect.poll(async () => (await documentOf(page)).groups).toEqual({ group: { name: 'group', objects: ids } });
  await scene(page).getByRole('button', { name: 'Choose its 2' }).click();
  const before = await documentOf(page);
  const height = scene(page).getByRole('spinbutton', { name: 'Move by, Y' });
  await height.fill('0.25');
  await height.press('Enter');
  await scene(page).getByRole('switch', { name: 'Hidden' }).click();
  await expect(scene(page).getByRole('status')).toContainText('4 values set, not kept yet');
  expect(await violationsOf(page)).toEqual([]);
  await scene(page).getByRole('button', { name: 'Keep untried' }).click();
  await expect(scene(page).getByRole('status')).toHaveCount(0);
  const after = await documentOf(page);
  for (const id of ids) {
    const [was, now] = [before.objects[id], after.objects[id]];
    expect(now.hidden).toBe(!was.hidden);
    expect(now.transform).toEqual(was.transform.map((c: number, i: number) => (i === 13 ? c + 0.25 : c)));
  }
  // Kept, and moved on from there.
  await expect(height).toHaveValue('0');
  await page.keyboard.press('Escape');
  await page.locator('body').press('Control+z');
  await expect.poll(() => documentOf(page)).toEqual(before);
});

test('objects of a scene file are added, chosen at once, and their material reassigned as one change', async ({
  page,
}) => {
  await page.goto(`${address()}/shots/${CODE}?panel=scene`);
  await scene(page).getByRole('button', { name: 'Add', exact: true }).click();
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('menuitem', { name: 'Of a scene file …' }).click();
  const file = (name: string, text: string) => ({ name, mimeType: 'text/plain', buffer: Buffer.from(text) });
  await (await chooser).setFiles([file('box.obj', OBJ), file('box.mtl', 'newmtl red\nKd 0.8 0.1 0.1\n')]);
  await page.getByRole('dialog', { name: 'Add objects of box.obj' }).getByRole('button', { name: 'Add', exact: true }).click(); // prettier-ignore
  await expect(scene(page)).toContainText('2 together');
  await expect(scene(page)).toContainText('zig');
  const { objects, materials } = await documentOf(page);
  expect(materials[objects.zig.material].baseColour[0]).toBeGreaterThan(0.5);
  await page.goto(`${address()}/shots/${CODE}?panel=scene&item=/materials/${objects.zig.material}`);
  await scene(page).getByRole('button', { name: 'More about red' }).click();
  await page.getByRole('menuitem', { name: 'Reassign …' }).click();
  const dialog = page.getByRole('dialog', { name: 'Reassign red' });
  await expect(dialog).toContainText('2 objects have it');
  await dialog.getByRole('combobox', { name: 'Material they get' }).click();
  await page.getByRole('option', { name: 'shelf wood' }).click();
  await dialog.getByRole('button', { name: 'Reassign' }).click();
  await expect(dialog).toHaveCount(0);
  const now = await documentOf(page);
  expect([now.objects.zig.material, now.objects.zag.material]).toEqual(['wood', 'wood']);
});

test('a file that is no scene is refused with why, and an image of another shot becomes a map here', async ({
  page,
}) => {
  await page.goto(`${address()}/shots/${CODE}?panel=scene`);
  const pick = async (name: string, text: string) => {
    await scene(page).getByRole('button', { name: 'Add', exact: true }).click();
    const chooser = page.waitForEvent('filechooser');
    await page.getByRole('menuitem', { name: 'Of a scene file …' }).click();
    await (await chooser).setFiles([{ name, mimeType: 'text/plain', buffer: Buffer.from(text) }]);
  };
  await pick('notes.txt', 'nothing');
  await expect(page.getByRole('dialog').getByRole('alert')).toContainText('.gltf, .glb, .obj or .usda is expected');
  await page.getByRole('dialog').getByRole('button', { name: 'Cancel' }).click();
  await pick('empty.obj', '# nothing\n');
  await page.getByRole('dialog').getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.getByRole('alert').first()).toContainText(/empty\.obj|no objects|Nothing/);
  await page.getByRole('dialog').getByRole('button', { name: 'Cancel' }).click();

  const before = Object.keys((await documentOf(page)).maps).length;
  await scene(page).getByRole('button', { name: 'Add', exact: true }).click();
  await page.getByRole('menuitem', { name: 'From another shot …' }).click();
  const borrow = page.getByRole('dialog', { name: 'Take an image from another shot' });
  await borrow.getByRole('option').first().click();
  await borrow.getByRole('button', { name: 'Take it' }).click();
  const use = page.getByRole('dialog', { name: /^Add / });
  await use.getByRole('radio', { name: /^Map/ }).check();
  await use.getByRole('button', { name: 'Add', exact: true }).click();
  await expect.poll(async () => Object.keys((await documentOf(page)).maps).length).toBe(before + 1);
});

test('a value of the sheet is tried on chosen objects alone, and kept as two shots', async ({ page }) => {
  await page.goto(`${address()}/shots/${CODE}?panel=scene`);
  await scene(page).getByRole('textbox', { name: 'Find an item' }).fill('honey, column 1');
  await scene(page).getByRole('option', { name: /^honey, column 1/ }).first().click(); // prettier-ignore
  await page.getByRole('tab', { name: 'Sheets' }).click();
  const dial = page.getByRole('spinbutton', { name: 'Transmission limit, preview' });
  await dial.fill('2');
  await dial.press('Enter');
  await page.getByRole('checkbox', { name: /^Try on honey, column 1.* alone$/ }).check();
  await expect(page.getByRole('button', { name: 'Keep untried' })).toBeDisabled();
  expect(await violationsOf(page)).toEqual([]);
  await page.getByRole('button', { name: 'Try here' }).click();
  const ledger = page.getByRole('region', { name: 'Trials' });
  await ledger.getByRole('button', { name: 'Keep …' }).click({ timeout: 120_000 });
  const dialog = page.getByRole('dialog', { name: /as two shots$/ });
  await dialog.getByRole('textbox', { name: 'These objects alone' }).fill(`${CODE}-rest`);
  await expect(dialog.getByRole('status')).toHaveText('Two shots need two codes.');
  await dialog.getByRole('textbox', { name: 'These objects alone' }).fill(`${CODE}-jar`);
  await dialog.getByRole('button', { name: 'Make two shots' }).click();
  await expect(ledger).toContainText('kept');
  await page.goto(`${address()}/`);
  for (const part of ['rest', 'jar']) await expect(page.getByText(`${CODE}-${part}`, { exact: true })).toBeVisible();
});
