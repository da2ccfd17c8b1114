/** Names of files by a pattern. */
import { distinctNames, fileNameOf, maybeFaultOfPattern, safeName, USUAL_PATTERN, type NameParts } from '../index.js';

const parts: NameParts = { production: 'Night Post', scene: 'The wet stamp', speaker: 'Odette', what: 'keys', number: 7 };

it.each([
  [USUAL_PATTERN, 'The wet stamp/The wet stamp, Odette keys'],
  ['{number}_{scene}_{what}', '007_The wet stamp_keys'],
  ['{production}/{speaker}/{what}', 'Night Post/Odette/keys'],
  ['/{scene}//{what}/', 'The wet stamp/keys'],
])('%s is %s', (pattern, name) => expect(fileNameOf(pattern, parts)).toBe(name));

it('leaves no comma where nobody speaks, and no name that a file system dislikes', () => {
  expect(fileNameOf('{scene}, {speaker}, {what}', { ...parts, speaker: '' })).toBe('The wet stamp, keys');
  expect(fileNameOf('{scene}', { ...parts, scene: '../../etc: <a>?' })).toBe('etc a');
  expect(fileNameOf('{scene}/{what}', { ...parts, scene: '..', what: 'CON' })).toBe('_/_CON');
  expect(safeName('Ünïcode – naïve*')).toBe('Ünïcode naïve');
  expect(safeName('x'.repeat(200))).toHaveLength(60);
});

it('says what is wrong with a pattern', () => {
  expect(maybeFaultOfPattern(USUAL_PATTERN)).toBeUndefined();
  expect(maybeFaultOfPattern('{take}')).toMatch(/^“\{take\}” stands for nothing/);
  expect(maybeFaultOfPattern('{scene} {')).toMatch(/left open/);
  expect(maybeFaultOfPattern('')).toMatch(/has 0 letters/);
  expect(maybeFaultOfPattern('a'.repeat(161))).toMatch(/has 161 letters/);
});

it('gives each name once, whatever its case', () => {
  const name = distinctNames();
  expect([name('Keys', '.csv'), name('keys', '.csv'), name('Keys', '.csv'), name('Keys', '.json')]).toEqual([
    'Keys.csv',
    'keys 2.csv',
    'Keys 3.csv',
    'Keys.json',
  ]);
});
