/** What is compiled is what its sources say. */
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { layOut } from './kernel.js';

it('is written down as the sources compile to it', () => {
  const script = join(__dirname, '../../../scripts/kernels.mjs');
  const { status, stderr } = spawnSync(process.execPath, [script, '--check'], { encoding: 'utf8' });
  expect({ status, stderr }).toEqual({ status: 0, stderr: '' });
}, 60_000);

it('has room for each of what is asked for, where four numbers can be read at once', () => {
  const { memory, places } = layOut({ first: 5, second: 70_000, third: 16 });
  expect(places).toEqual({ first: 0, second: 16, third: 70_016 });
  expect(memory.buffer.byteLength).toBe(2 * 65_536);
});
