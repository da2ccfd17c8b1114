/** A line on the stop-motion stage: shot by keys and by touch, left and gone on with, seen on a second device. */
import { AxeBuilder } from '@axe-core/playwright';
import { expect, openDemo, sceneDocument, test } from '../app.js';

const SCENE = 'a-complaint';

test('a line is shot picture by picture, with holds in one go and one to shoot again, and goes on where it was left', async ({
  page,
  app,
  context,
}) => {
  await openDemo(page, app, SCENE, 'hand-off?as=shots');
  await page.getByRole('link', { name: 'Shoot it' }).click();
  const stage = page.getByTestId('stage');
  const { settings, exposures } = await sceneDocument(app, SCENE);
  const { lengthFrames } = settings[0]!;
  await expect(stage).toHaveAttribute('data-left', String(lengthFrames));
  await expect(page.getByTestId('nth')).toHaveText(/^1 of \d+$/);
  const first = exposures.filter((one, index, all) => index === 0 || all[index - 1]!.drawing !== one.drawing);
  const hold = first[1]!.from;
  // A hold in one go, and the picture after it by itself.
  await page.keyboard.press('h');
  await page.keyboard.press('Space');
  await expect(stage).toHaveAttribute('data-at', String(hold));
  await page.keyboard.press('h');
  await page.getByRole('button', { name: /^Shot/ }).click();
  await expect(stage).toHaveAttribute('data-at', String(hold + 1));
  await expect(stage).toHaveAttribute('data-left', String(lengthFrames - hold - 1));
  // The last one was not good.
  await page.keyboard.press('r');
  await expect(page.getByRole('status')).toContainText('1 to shoot again');
  await page.keyboard.press('Backspace');
  await expect(page.getByText('to be shot again')).toBeVisible();
  await page.keyboard.press('Space');
  await expect(page.getByRole('status')).not.toContainText('again');
  // Left, and the server ends and comes back: it stands where it stood, here and on a second device.
  await app.restart();
  await page.reload();
  await expect(stage).toHaveAttribute('data-at', String(hold + 1));
  const other = await context.newPage();
  await other.goto(page.url());
  await expect(other.getByTestId('stage')).toHaveAttribute('data-left', String(lengthFrames - hold - 1));
  await page.keyboard.press('Space');
  await expect(other.getByTestId('stage')).toHaveAttribute('data-left', String(lengthFrames - hold - 2));
  // On twos the camera takes half as many.
  await page.getByRole('button', { name: 'Camera on twos' }).click();
  await expect(page.getByRole('status')).toContainText(`of ${Math.ceil(lengthFrames / 2)} pictures left`);
  // What was shot on ones stands, whatever is shot on twos.
  await page.keyboard.press('Space');
  await page.getByRole('button', { name: 'Camera on ones' }).click();
  await expect(stage).toHaveAttribute('data-left', String(lengthFrames - hold - 2));
  const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa']).analyze();
  expect(violations.map(({ id, nodes }) => [id, nodes[0]!.html.slice(0, 120)])).toEqual([]);
});
