/** The synthesiser, in a worker: a sound said as a wave file. It is a program of its own, run once for each sound. */
import openSynthesiser from 'espeak-ng';
import programUrl from 'espeak-ng/dist/espeak-ng.wasm?url';
import type { SpokenSound } from '../sound/spokenSounds.js';
import { answering } from './asking.js';

/** Words a minute: slower than speech, so that a sound can be made out. */
const PACE = '110';

let program: Promise<WebAssembly.Module> | undefined;

async function say({ voice, said }: SpokenSound): Promise<Uint8Array<ArrayBuffer>> {
  const compiled = await (program ??= WebAssembly.compileStreaming(fetch(programUrl)));
  const run = await openSynthesiser({
    arguments: ['-w', 'said.wav', '-s', PACE, '-v', voice, `[[${said}]]`],
    print: () => undefined,
    printErr: () => undefined,
    // Compiled once for all of them.
    instantiateWasm: (imports, done) => {
      void WebAssembly.instantiate(compiled, imports).then((instance) => done(instance, compiled));
      return {};
    },
  });
  return new Uint8Array(run.FS.readFile('said.wav'));
}

answering<SpokenSound>(say);
