/** A line shot with the practice camera: seen live, kept picture by picture, played, and held against what was asked for. */
import { AxeBuilder } from '@axe-core/playwright';
import type { ShotPictureView } from '@zest-jaw/core';
import sharp from 'sharp';
import { expect, openDemo, test } from '../app.js';

const SCENE = 'a-complaint';
const PICTURES = `/api/scenes/${SCENE}/shooting/mouth1/pictures`;

test('the practice camera shows the puppet, keeps every picture, and a wrong mouth is found, shot again and found right', async ({
  page,
  app,
}) => {
  await openDemo(page, app, SCENE, 'hand-off?as=shots');
  await page.getByRole('link', { name: 'Shoot it' }).click();
  const stage = page.getByTestId('stage');
  await stage.getByRole('combobox', { name: 'Camera' }).selectOption({ label: 'Practice camera' });
  await expect(page.getByTestId('live')).toHaveAttribute('data-open', 'true');
  await page.keyboard.press('h');
  const kept = async (): Promise<ShotPictureView[]> => app.json(PICTURES);
  // Hold by hold; a server that ends in between loses none.
  for (let shot = 0; shot < 12; shot++) {
    const before = await stage.getAttribute('data-at');
    await page.keyboard.press('Space');
    await expect(stage).not.toHaveAttribute('data-at', before!);
    if (shot === 5) await app.restart();
  }
  const shotSoFar = Number(await stage.getAttribute('data-at'));
  await expect.poll(async () => (await kept()).length).toBe(shotSoFar);
  // The last picture lies over what is seen, as strongly as wanted.
  const onion = page.getByRole('img', { name: /^The last picture, frame \d+$/ });
  await expect(onion).toHaveCSS('opacity', '0.4');
  await page.getByLabel('How strong the last picture is').fill('70');
  await expect(onion).toHaveCSS('opacity', '0.7');
  await page.keyboard.press('o');
  await expect(onion).toBeHidden();

  // Somebody put on the wrong mouth: the picture of another one lies where this one was asked for.
  const pictures = await kept();
  const victim = pictures.findIndex(({ drawing }, index) => index > 2 && drawing !== pictures[index - 1]!.drawing);
  const wrong = pictures.find(({ drawing, picture }) => drawing !== pictures[victim]!.drawing && picture < victim)!;
  const body = new FormData();
  body.append('picture', await (await fetch(app.url(`/api/assets/${wrong.asset}`))).blob(), 'wrong.jpg');
  body.append('chartId', pictures[victim]!.chartId!);
  body.append('drawing', pictures[victim]!.drawing!);
  body.append('practice', 'yes');
  await fetch(app.url(`${PICTURES}/${victim}`), { method: 'PUT', body });

  await page.reload();
  await page.getByRole('link', { name: 'What was shot' }).click();
  await expect(page.getByRole('status').first()).toContainText(`${shotSoFar} of 90 pictures, ${90 - shotSoFar} not shot`);
  await page.getByRole('button', { name: 'Look for wrong mouths' }).click();
  await expect(page.getByText('1 mouth is doubted.')).toBeVisible();
  const doubt = page.getByRole('list', { name: 'Doubts' }).getByRole('listitem');
  await expect(doubt).toHaveCount(1);
  await expect(doubt).toContainText(/was asked for, it looks like \d+ \w+\./);
  const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa']).analyze();
  expect(violations.map(({ id, nodes }) => [id, nodes[0]!.html.slice(0, 120)])).toEqual([]);
  await doubt.getByRole('button', { name: /^Go to frame/ }).click();
  await expect(page.getByTestId('taken')).toHaveAttribute('data-picture', String(victim));
  await doubt.getByRole('button', { name: 'Shoot again' }).click();
  await expect(page.getByRole('status').first()).toContainText('1 to shoot again');
  await doubt.getByRole('button', { name: 'It is right' }).click();
  await expect(page.getByText('No picture is doubted.')).toBeVisible();

  // Played with its sound over what is there and what is not.
  await page.getByRole('slider', { name: 'Frame' }).fill('0');
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: /^Stop/ })).toBeVisible();
  await expect(page.getByTestId('taken').getByText('not shot')).toBeVisible();
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: /^Play/ })).toBeVisible();
});

/** Of a page: what its workers answer waits until they are let go on, or until they are ended. */
interface HeldPage {
  holdWorkers: boolean;
  letWorkersGoOn(): void;
}

function holdWorkersWhenAsked(): void {
  const held = window as unknown as HeldPage;
  const waiting: (() => void)[] = [];
  held.letWorkersGoOn = () => {
    held.holdWorkers = false;
    for (const give of waiting.splice(0)) give();
  };
  window.Worker = class extends Worker {
    private isEnded = false;
    override set onmessage(listen: ((event: MessageEvent) => void) | null) {
      super.onmessage = (event) => {
        const give = (): void => void (this.isEnded || listen?.(event));
        if (held.holdWorkers) waiting.push(give);
        else give();
      };
    }
    override terminate(): void {
      this.isEnded = true;
      super.terminate();
    }
  };
}

test('a picture that was on its way from the camera is kept when the stage is left', async ({ page, app }) => {
  await page.addInitScript(holdWorkersWhenAsked);
  await page.goto(app.url(`/scenes/${SCENE}/shoot/mouth1`));
  const stage = page.getByTestId('stage');
  await stage.getByRole('combobox', { name: 'Camera' }).selectOption({ label: 'Practice camera' });
  await expect(page.getByTestId('live')).toHaveAttribute('data-open', 'true');
  await page.evaluate(() => ((window as unknown as HeldPage).holdWorkers = true));
  for (let shot = 0; shot < 5; shot++) {
    await page.keyboard.press('Space');
    await expect(stage).toHaveAttribute('data-at', String(shot + 1));
  }
  await page.getByRole('link', { name: 'What was shot' }).click();
  await expect(page.getByRole('status').first()).toContainText('0 of 90 pictures');
  await page.evaluate(() => (window as unknown as HeldPage).letWorkersGoOn());
  await expect(page.getByRole('status').first()).toContainText('5 of 90 pictures');
});

test('a take can be held against its own shots, and looking is given up when asked', async ({ page, app }) => {
  await page.goto(app.url(`/scenes/${SCENE}/shoot/mouth1`));
  const stage = page.getByTestId('stage');
  await stage.getByRole('combobox', { name: 'Camera' }).selectOption({ label: 'Practice camera' });
  await expect(page.getByTestId('live')).toHaveAttribute('data-open', 'true');
  for (let shot = 0; shot < 8; shot++) {
    await page.keyboard.press('Space');
    await expect(stage).toHaveAttribute('data-at', String(shot + 1));
  }
  await page.getByRole('link', { name: 'What was shot' }).click();
  await expect(page.getByRole('status').first()).toContainText('8 of 90 pictures');
  await page.getByLabel('Held against').selectOption({ label: 'what was shot of each mouth' });
  // The check is held where it is, so that it can be given up.
  let release = (): void => undefined;
  await page.route('**/api/assets/*', async (route) => {
    await new Promise<void>((resolve) => (release = resolve));
    await route.continue();
  });
  await page.getByRole('button', { name: 'Look for wrong mouths' }).click();
  await page.getByRole('button', { name: 'Cancel' }).click();
  release();
  await expect(page.getByRole('button', { name: 'Look for wrong mouths' })).toBeVisible();
  await page.unroute('**/api/assets/*');
  await page.getByRole('button', { name: 'Look for wrong mouths' }).click();
  await expect(page.getByText(/^Put on once, so with nothing to be held against: /)).toBeVisible();
  await expect(page.getByText('No picture is doubted.')).toBeVisible();
});

test('a camera of this computer is looked through and shoots; one that may not be says so', async ({ page, app }) => {
  // A device as a browser has it: its stream is a canvas of one colour.
  await page.addInitScript(() => {
    const devices = [
      { kind: 'videoinput', deviceId: 'desk', label: 'Camera on the desk' },
      { kind: 'videoinput', deviceId: 'held', label: 'Camera that is held' },
    ];
    navigator.mediaDevices.enumerateDevices = async () => devices as unknown as MediaDeviceInfo[];
    navigator.mediaDevices.getUserMedia = async (asked) => {
      if (JSON.stringify(asked).includes('held')) throw new DOMException('busy', 'NotReadableError');
      const canvas = Object.assign(document.createElement('canvas'), { width: 320, height: 180 });
      const context = canvas.getContext('2d')!;
      setInterval(() => {
        context.fillStyle = '#20a040';
        context.fillRect(0, 0, 320, 180);
      }, 40);
      return canvas.captureStream(25);
    };
  });
  await page.goto(app.url(`/scenes/${SCENE}/shoot/mouth1`));
  const stage = page.getByTestId('stage');
  await stage.getByRole('combobox', { name: 'Camera' }).selectOption({ label: 'Camera that is held' });
  await expect(page.getByText(/This camera cannot be looked through\. Allow it in the browser/)).toBeVisible();
  await stage.getByRole('combobox', { name: 'Camera' }).selectOption({ label: 'Camera on the desk' });
  await expect(page.getByTestId('live')).toHaveAttribute('data-open', 'true');
  await page.keyboard.press('Space');
  const kept = (): Promise<ShotPictureView[]> => app.json(PICTURES);
  await expect.poll(async () => (await kept()).length).toBe(1);
  const [taken] = await kept();
  expect(taken).toMatchObject({ picture: 0, practice: false });
  const jpeg = Buffer.from(await (await fetch(app.url(`/api/assets/${taken!.asset}`))).arrayBuffer());
  const { data, info } = await sharp(jpeg).raw().toBuffer({ resolveWithObject: true });
  expect([info.width, info.height]).toEqual([320, 180]);
  // Green, as far as JPEG keeps it.
  for (const [colour, level] of [0x20, 0xa0, 0x40].entries())
    expect(Math.abs(data[(90 * 320 + 160) * info.channels + colour]! - level)).toBeLessThan(12);
});
