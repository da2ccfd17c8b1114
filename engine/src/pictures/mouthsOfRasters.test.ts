/** Sheets that fall into more figures than there are mouths. */
import { mouthsOfRasters } from './mouthsOfRasters.js';

it('nine hundred blobs are refused in a sentence, before a picture is made of any', async () => {
  const [width, height] = [900, 900];
  const pixels = new Uint8Array(width * height * 4).fill(255);
  for (let row = 0; row < 30; row++)
    for (let column = 0; column < 30; column++)
      for (let y = 0; y < 8; y++)
        for (let x = 0; x < 8; x++) pixels.set([40, 30, 60, 255], ((row * 30 + 4 + y) * width + column * 30 + 4 + x) * 4);
  const file = { name: 'dots.png', bytes: new Uint8Array(0) };
  const picture = {
    count: 1,
    async *frames() {
      yield { width, height, pixels };
    },
  };
  const found = mouthsOfRasters(file, picture, { cut: { how: 'figures' }, clearPaper: true }, [], () => undefined);
  await expect(found).rejects.toThrow(/dots falls into 900 separate figures\. An import may have 400: cut it by a grid/);
});
