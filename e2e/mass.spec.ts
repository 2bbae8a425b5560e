import { expect, type Page } from '@playwright/test';
import exceljs from 'exceljs';
import fs from 'node:fs';
import {
  clickPoint,
  command,
  onScreen,
  openModel,
  openValve,
  pixelsOf,
  press,
  settled,
  showTask,
  test,
  tree,
} from './app.ts';

const total = (page: Page) => page.getByTestId('total-mass');
const region = (page: Page, name: string) => page.getByRole('region', { name });
const setOf = (page: Page, name: string) =>
  page.getByRole('group', { name: 'Mass of' }).getByText(name).click();
const text = (kg: number) => (kg < 1 ? `${(kg * 1000).toPrecision(4)} g` : `${kg.toFixed(3)} kg`);
const volumeOf = (page: Page, part = 0) =>
  page.evaluate((i) => window.bathyscope!.modelStore.getState().parts.get(i)!.geometry.mass!.volume, part);

async function save(page: Page, item: string): Promise<string> {
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save figures' }).click();
  await page.getByRole('menuitem', { name: item }).click();
  return (await download).path();
}

test('a part without a material says so; given one it is weighed, in the parts list too, and after opening again', async ({
  page,
}) => {
  await openModel(page, 'Lamp housing LH-20');
  await command(page, 'Mass');
  const material = page.getByRole('combobox', { name: /^Material of Lamp housing/ });
  await material.selectOption({ label: 'Aluminium 6082' });
  const kg = (await volumeOf(page)) * 2700e-9;
  await expect(total(page)).toHaveText(text(kg));
  await expect(region(page, 'Total')).toContainText('in all');
  await expect(region(page, 'Total')).toContainText('exact');
  // Where it balances, in the scene.
  await expect(page.getByTestId('centre-of-gravity')).toContainText(text(kg));
  await expect(page.getByTestId('principal-axis')).toHaveCount(3);
  await page.reload();
  await expect(total(page)).toHaveText(text(kg));
  await expect(material).toHaveValue('6082');
  await material.selectOption('');
  await expect(total(page)).not.toHaveText(text(kg));
  await page.keyboard.press('Control+z');
  await expect(total(page)).toHaveText(text(kg));

  // Half of it: the kept side of a cut through the middle, from the mesh, and so with its bound.
  await page.evaluate(() => window.bathyscope!.run('section-y'));
  await showTask(page, 'Mass');
  await setOf(page, 'Kept side');
  await expect(region(page, 'Total')).toContainText('from mesh');
  const kept = await page.evaluate(() => window.bathyscope!.sectionStore.getState().planes.length);
  expect(kept).toBe(1);
  await expect
    .poll(async () => Number(/[\d.]+/.exec((await total(page).textContent()) ?? '')?.[0]) / (kg * 1000))
    .toBeCloseTo(0.5, 1);
  await setOf(page, 'All');
  await region(page, 'Total').getByRole('button', { name: 'Find it' }).click();
  await expect(page.getByTestId('smallest-box')).toBeVisible();
  // Inertia about the origin is another one; the sign of the products is said and turned.
  const tensor = page.getByRole('table', { name: 'Tensor of inertia' });
  const about = await tensor.textContent();
  await page.getByRole('combobox', { name: 'Inertia about' }).selectOption('origin');
  await expect(tensor).not.toHaveText(about!);
  const products = await tensor.textContent();
  await page.getByRole('combobox', { name: 'Sign of the products' }).selectOption('plain');
  await expect(tensor).not.toHaveText(products!);
});

test('an assembly: what is hidden does not weigh, what is picked alone does; tables, a bill of materials and all figures are saved', async ({
  page,
}) => {
  await openValve(page, 'Mass');
  const all = await total(page).textContent();
  const list = page.getByRole('list', { name: 'Parts by mass' }).getByRole('listitem');
  await expect(list.first()).toBeVisible();
  await page
    .getByRole('combobox', { name: 'Material of Spool', exact: true })
    .selectOption({ label: 'Duplex steel 1.4462' });
  await setOf(page, 'Picked');
  await expect(region(page, 'Total')).toContainText('Pick components to weigh them.');
  await showTask(page, 'Parts');
  await tree(page)
    .getByRole('row', { name: /^Spool( |$)/ })
    .last()
    .click();
  await showTask(page, 'Mass');
  const one = await total(page).textContent();
  expect(one).not.toBe(all);
  await expect(region(page, 'Total')).toContainText('in all');
  await command(page, 'Hide');
  await setOf(page, 'Visible');
  await settled(page);
  await expect(total(page)).not.toHaveText(one!);
  // A density has the digits it is known to, and leaves its material room.
  await expect(page.getByText(/\d\.\d{4,} kg\/m³/)).toHaveCount(0);
  for (const choice of await page.getByRole('combobox', { name: /^Material of / }).all())
    expect((await choice.boundingBox())!.width).toBeGreaterThan(70);
  const csv = fs.readFileSync(await save(page, 'Table of parts, CSV'), 'utf8');
  expect(csv.split('\n')[0]).toContain('Part,Quantity,Material,"Density, kg/m³"');
  expect(csv).not.toContain('Spool,');
  const json = JSON.parse(fs.readFileSync(await save(page, 'All figures, JSON'), 'utf8')) as {
    known: { mass: number };
    units: object;
    parts: { name: string }[];
  };
  expect(text(json.known.mass)).toBe(await total(page).textContent());
  expect(json.parts.some((p) => p.name === 'Spool')).toBe(false);
  const book = new exceljs.Workbook();
  await book.xlsx.readFile(await save(page, 'Bill of materials, XLSX'));
  const sheet = book.worksheets[0];
  expect(sheet.getRow(1).getCell(2).value).toBe('Part');
  expect(sheet.getRow(2).getCell(3).value).toBeGreaterThan(0);
  expect(sheet.getImages()).toHaveLength(0);
  // With pictures: one a part, each of its part alone, and the working view stays as it was.
  await book.xlsx.readFile(await save(page, 'Bill of materials with pictures, XLSX'));
  const pictured = book.worksheets[0];
  const images = pictured
    .getImages()
    .map(({ imageId }) => book.getImage(Number(imageId)).buffer as unknown as Buffer);
  expect(images).toHaveLength(pictured.rowCount - 1);
  // Washers M8 and M10 of ISO 7089 have the same proportions, and so the same picture.
  expect(new Set(images.map((image) => Buffer.from(image).toString('base64'))).size).toBeGreaterThanOrEqual(
    images.length - 1,
  );
  const drawnShare = async (image: Buffer) => {
    const { data } = await pixelsOf(page, Buffer.from(image));
    return data.filter((x, i) => i % 4 === 0 && x < 235).length / (data.length / 4);
  };
  for (const image of images) expect(await drawnShare(image)).toBeGreaterThan(0.03);
  expect(await total(page).textContent()).toBe(text(json.known.mass));
  // A bar of the chart picks what it stands for.
  await page.getByRole('button', { name: /^Pick Valve body/ }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText(/^Picked: 1 component of (Valve b|B)ody$/)).toBeVisible();
});

test('materials for many at once, by name and by drag; one typed in, one assumed, one of one’s own', async ({
  page,
}) => {
  await openValve(page, 'Mass');
  const materials = region(page, 'Materials');
  await materials
    .getByRole('combobox', { name: 'Material to give' })
    .selectOption({ label: 'Titanium grade 5 (Ti-6Al-4V)' });
  await materials.getByRole('combobox', { name: 'Whom to give it' }).selectOption('name');
  await materials.getByRole('textbox', { name: 'Word in the name' }).fill('bolt');
  await expect(materials.getByRole('status')).toHaveText('1 part');
  await materials.getByRole('button', { name: 'Give' }).click();
  const bolts = page
    .getByRole('listitem')
    .filter({ hasText: 'Hex bolt' })
    .filter({ has: page.getByRole('combobox') });
  await expect(bolts).toContainText('4430 kg/m³');

  // What has none may be assumed, and is said to be; a bare 1.2 may be two densities.
  const whole = region(page, 'Total');
  await whole.getByRole('button', { name: 'Assume…' }).click();
  await whole.getByRole('textbox', { name: 'Density to assume' }).fill('0');
  await whole.getByRole('button', { name: 'Take', exact: true }).click();
  await expect(whole.getByRole('alert')).toContainText('weighs nothing');
  await whole.getByRole('textbox', { name: 'Density to assume' }).fill('1.2');
  await whole.getByRole('button', { name: 'Take', exact: true }).click();
  await whole.getByRole('button', { name: '1.2 g/cm³ = 1200 kg/m³' }).click();
  await expect(whole).toContainText('Assumed 1200 kg/m³ for 2');
  await expect(whole).toContainText('with an assumed density');
  await whole.getByRole('button', { name: 'Take back' }).click();
  await expect(whole).toContainText('have no material');

  // A bought part is weighed by hand; a centre beside it is asked about.
  const spool = page
    .getByRole('list', { name: 'Parts by mass' })
    .getByRole('listitem')
    .filter({ hasText: /^Spool/ });
  await spool.getByRole('button', { name: 'Type mass' }).click();
  const form = page.getByRole('form', { name: 'Mass of Spool' });
  await form.getByRole('textbox', { name: 'Mass', exact: true }).fill('heavy');
  await form.getByRole('button', { name: 'Take', exact: true }).click();
  await expect(form.getByRole('alert')).toBeVisible();
  await form.getByRole('textbox', { name: 'Mass', exact: true }).fill('250 g');
  await form.getByRole('textbox', { name: /^Centre X/ }).fill('900');
  await form.getByRole('button', { name: 'Take', exact: true }).click();
  await expect(form.getByRole('alert')).toContainText('all three coordinates');
  await form.getByRole('textbox', { name: /^Centre Y/ }).fill('0');
  await form.getByRole('textbox', { name: /^Centre Z/ }).fill('1/2 in');
  await form.getByRole('button', { name: 'Take', exact: true }).click();
  await expect(form.getByRole('alert')).toContainText('outside the part’s box');
  await form.getByRole('button', { name: 'Take it all the same' }).click();
  await expect(spool).toContainText('typed in: 250.0 g');
  await page.keyboard.press('Control+z');
  await expect(spool).not.toContainText('typed in');

  // One’s own material, dragged onto a part in the scene.
  const name = `Potting ${Date.now()}`;
  await materials.getByRole('button', { name: 'Own materials …' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('textbox', { name: 'Name' }).fill(name);
  await dialog.getByRole('textbox', { name: 'Density' }).fill('1.15');
  await dialog.getByRole('button', { name: 'Add' }).click();
  await dialog.getByRole('button', { name: /1150 kg\/m³/ }).click();
  await expect(dialog.getByRole('list', { name: 'Own materials' })).toContainText(name);
  await dialog.getByRole('button', { name: 'Close', exact: true }).click();
  await materials.getByRole('combobox', { name: 'Material to give' }).selectOption({ label: name });
  const handwheel = await onScreen(page, [88, 0, 45]);
  const data = await page.evaluateHandle(() => new DataTransfer());
  await materials.getByTitle(/^Drag it onto a part/).dispatchEvent('dragstart', { dataTransfer: data });
  await page
    .getByTestId('scene')
    .dispatchEvent('drop', { dataTransfer: data, clientX: handwheel.x, clientY: handwheel.y });
  await expect(page.getByRole('listitem').filter({ hasText: '1150 kg/m³' })).toHaveCount(1);
});

test('in the Catalogue style metal shines and rubber does not, in the file’s colour or in the material’s', async ({
  page,
}) => {
  await openModel(page, 'Lamp housing LH-20');
  await showTask(page, 'Mass');
  await page.getByRole('combobox', { name: 'Style', exact: true }).selectOption({ label: 'Catalogue' });
  const material = page.getByRole('combobox', { name: /^Material of Lamp housing/ });
  /** The brightest that much of the model is: highlights, not single pixels. */
  const highlights = async (name: string) => {
    await material.selectOption({ label: name });
    await settled(page);
    const { data } = await pixelsOf(page, await page.getByTestId('scene').screenshot());
    const light: number[] = [];
    for (let i = 0; i < data.length; i += 4)
      if (Math.abs(data[i] - data[i + 2]) > 6) light.push(data[i] + data[i + 1] + data[i + 2]);
    return light.sort((a, b) => a - b)[Math.floor(light.length * 0.9)];
  };
  const rubber = await highlights('FKM');
  expect(await highlights('Titanium grade 5 (Ti-6Al-4V)')).toBeGreaterThan(rubber + 60);

  await material.selectOption({ label: 'Copper, Cu-ETP' });
  const red = async () => {
    await settled(page);
    const { data } = await pixelsOf(page, await page.getByTestId('scene').screenshot());
    let count = 0;
    for (let i = 0; i < data.length; i += 4)
      if (data[i] > data[i + 1] + 25 && data[i + 1] > data[i + 2] + 15) count++;
    return count / (data.length / 4);
  };
  const ofFile = await red();
  await showTask(page, 'Style');
  await page.getByRole('button', { name: 'The material’s first' }).click();
  expect(await red()).toBeGreaterThan(ofFile + 0.1);
});

test('balance and buoyancy: it stands or falls, is compared with what it was, sinks, and says what would make it neutral', async ({
  page,
}) => {
  await openModel(page, 'Lamp housing LH-20');
  await showTask(page, 'Mass');
  await page
    .getByRole('combobox', { name: /^Material of Lamp housing/ })
    .selectOption({ label: 'Aluminium 6082' });
  await region(page, 'Compared').getByRole('button', { name: 'Keep this weight' }).click();
  await page
    .getByRole('combobox', { name: /^Material of Lamp housing/ })
    .selectOption({ label: 'Duplex steel 1.4462' });
  await expect(page.getByRole('list', { name: 'Kept weights' })).toContainText('(188.9 %)');
  const balance = region(page, 'Balance');
  await balance.getByRole('button', { name: 'Stands' }).click();
  await expect(balance).toContainText('on its lowest points');
  await expect(balance).toContainText(/Tips when leant over\s*[\d.]+ °/);
  await balance.getByRole('button', { name: 'Turns' }).click();
  await expect(balance).toContainText('Pick the axis');
  // The flange's edge: the axis of a circle is where it turns.
  await press(page, '0');
  await settled(page);
  await clickPoint(page, [25.5, -44.2, 98]);
  await expect(balance).toContainText('Pick the axis');
  const buoyancy = region(page, 'Buoyancy');
  // Archimedes: ρ g V in sea water of 1026 kg/m³.
  const volume = await volumeOf(page);
  await expect(buoyancy).toContainText(`${(volume * 1e-9 * 1026 * 9.80665).toPrecision(4)} N`);
  await expect(buoyancy).toContainText('Net, sinks');
  await expect(buoyancy).toContainText('Overlaps count twice');
  await buoyancy.getByRole('button', { name: /Look for overlaps/ }).click();
  await expect(buoyancy).toContainText('No closed hollow was found', { timeout: 40_000 });
  await expect(page.getByTestId('buoyancy')).toBeVisible();
  // Foam of 650 kg/m³: (M − ρV) / (ρ/ρb − 1).
  const excess = volume * 1e-9 * (7800 - 1026);
  await expect(buoyancy).toContainText(text(excess / (1026 / 650 - 1)));
  await buoyancy.getByRole('combobox', { name: 'Ballast' }).selectOption({ label: 'Lead' });
  await expect(buoyancy).toContainText('It sinks, so what is added must be lighter');
  await buoyancy.getByRole('button', { name: 'Righting arms over tilt' }).click();
  await expect(buoyancy.getByRole('figure')).toContainText('Righting arm in mm');
  // Of foam it rises to the surface: draught and freeboard make its height, and the arms are those afloat.
  await page.getByRole('combobox', { name: /^Material of Lamp housing/ }).selectOption({ label: 'PP' });
  await expect(buoyancy).toContainText('Net, rises');
  await buoyancy.getByRole('button', { name: 'Let it float' }).click();
  const afloat = buoyancy.getByLabel('Afloat');
  await expect(afloat).toContainText('Metacentric height', { timeout: 120_000 });
  const mm = async (row: string) =>
    Number(new RegExp(`${row}\\s*([\\d.]+)`).exec((await afloat.textContent())!)![1]);
  expect((await mm('Draught')) + (await mm('Freeboard'))).toBeCloseTo(98, 2);
  await expect(buoyancy.getByRole('figure')).toContainText('Righting arm in mm afloat');
});
