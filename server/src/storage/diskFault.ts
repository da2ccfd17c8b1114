/** What is wrong with the disk, by what SQLite and the system say of it. */
export type DiskFault = 'full' | 'readOnly';

/** The same in a sentence, for whoever works with it. */
export const DISK_FAULTS: Readonly<Record<DiskFault, string>> = {
  full: 'The disk that Zest Jaw keeps its data on is full. Nothing that was saved is lost: make room on it, and what is not saved yet goes in.',
  readOnly:
    'The disk that Zest Jaw keeps its data on cannot be written. Nothing that was saved is lost: give the right to write it, and what is not saved yet goes in.',
};

export function maybeDiskFault(error: unknown): DiskFault | undefined {
  const { message = String(error), code = '', cause } = (error ?? {}) as { message?: string; code?: string; cause?: unknown };
  const said = `${code} ${message}`;
  if (/SQLITE_FULL|disk is full|ENOSPC|EDQUOT/i.test(said)) return 'full';
  if (/SQLITE_READONLY|readonly database|read-only|EROFS/i.test(said)) return 'readOnly';
  return cause === undefined ? undefined : maybeDiskFault(cause);
}
