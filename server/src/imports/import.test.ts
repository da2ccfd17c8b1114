/** An import in which one file takes too much: it is told, and the others are there. */
import { HOSTILE_PICTURES } from '../testing/hostileFiles.js';
import { openTestApp, type TestApp } from '../testing/testApp.js';

jest.setTimeout(120_000);

let app: TestApp;
beforeAll(async () => void (app = await openTestApp()));
afterAll(() => app.close());

const GOOD = Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><path d="M1 1h5v5z"/></svg>');
const [heavy] = HOSTILE_PICTURES.find(({ what }) => what === 'a large picture used five hundred times')!.files();

const send = (files: Readonly<Record<string, Uint8Array>>): Promise<{ body: { id: string } }> => {
  let asked = app.agent().post('/api/imports').field('cut', 'whole').field('clearPaper', 'false');
  for (const [name, bytes] of Object.entries(files)) asked = asked.attach('files', Buffer.from(bytes), name);
  return asked.expect(201) as unknown as Promise<{ body: { id: string } }>;
};

it('a file that takes more memory than it may is told by its name, and those before and after it are found', async () => {
  const { body } = await send({ 'a before.svg': GOOD, 'b heavy.svg': heavy!.bytes, 'c after.svg': GOOD });
  expect((await app.ended(body.id)).state).toBe('done');
  const { mouths, refused } = (await app.agent().get(`/api/imports/${body.id}`).expect(200)).body;
  expect(mouths.map(({ file }: { file: string }) => file)).toEqual(['a before.svg', 'c after.svg']);
  expect(refused).toEqual([
    {
      file: 'b heavy.svg',
      sentence: 'b heavy.svg needs more than 1024 MB of memory to be read. Make it simpler or smaller, or export it as PNG.',
    },
  ]);
});

it('one that is alone ends the import with the same sentence', async () => {
  const { body } = await send({ 'heavy.svg': heavy!.bytes });
  const { state, message } = await app.ended(body.id);
  expect([state, message]).toEqual(['failed', expect.stringMatching(/^heavy\.svg needs more than 1024 MB of memory to be read\. Make it/)]);
});
