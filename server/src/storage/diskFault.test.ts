/** A disk that is full, or cannot be written, is known by whatever says so. */
import { maybeDiskFault } from './diskFault.js';

const coded = (code: string): Error => Object.assign(new Error('no'), { code });

it.each([
  [new Error('COMMIT; - database or disk is full'), 'full'],
  [coded('SQLITE_FULL'), 'full'],
  [coded('ENOSPC'), 'full'],
  [coded('EDQUOT'), 'full'],
  [new Error('The file was not kept', { cause: coded('ENOSPC') }), 'full'],
  [new Error('attempt to write a readonly database'), 'readOnly'],
  [coded('EROFS'), 'readOnly'],
  [coded('EACCES'), undefined],
  [new Error('Something else'), undefined],
  ['text', undefined],
  [null, undefined],
] as const)('%p is %p', (error, fault) => {
  expect(maybeDiskFault(error)).toBe(fault);
});
