/**
 * `npm run kernels [-- --check]`: compiles what of the core is WebAssembly and writes it down as text, which any bundler takes.
 * With `--check` nothing is written: it ends with 1 where the text is not what the sources compile to.
 */
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import asc from 'assemblyscript/asc';
import { ROOT } from './ensureBuilt.mjs';

const SOURCES = ['densities', 'filter'];
const WRITTEN = join(ROOT, 'core/src/kernels/compiled.ts');
const OPTIONS = ['-O3', '--noAssert', '--enable', 'simd', '--runtime', 'stub', '--importMemory'];

async function compiled(name) {
  let bytes;
  const args = [`core/assembly/${name}.ts`, ...OPTIONS, '--outFile', 'kernel.wasm', '--baseDir', ROOT];
  const { error, stderr } = await asc.main(args, {
    writeFile: (file, contents) => {
      if (file.endsWith('kernel.wasm')) bytes = contents;
    },
  });
  if (error) throw new Error(`${args[0]} does not compile: ${error.message}\n${stderr}`);
  return `
// prettier-ignore
export const ${name.toUpperCase()}_KERNEL = '${Buffer.from(bytes).toString('base64')}';
`;
}

let text = '/** What `npm run kernels` compiles of `core/assembly`, in base 64: one text for each file. */\n';
for (const name of SOURCES) text += await compiled(name);
if (!process.argv.includes('--check')) writeFileSync(WRITTEN, text);
else if (!existsSync(WRITTEN) || readFileSync(WRITTEN, 'utf8') !== text) {
  console.error('core/assembly compiles to something else than what is written down: npm run kernels');
  process.exitCode = 1;
}
