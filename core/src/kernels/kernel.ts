/** Loops in WebAssembly, compiled from `core/assembly` and kept as text beside this. */

const compiled = new Map<string, WebAssembly.Module>();

/** `atob` is everywhere that WebAssembly is. */
const bytesOf = (base64: string): Uint8Array => Uint8Array.from(atob(base64), (letter) => letter.charCodeAt(0));

/**
 * What a kernel exports, at work in a memory.
 *
 * @param base64 one of the texts that `npm run kernels` writes
 */
export function openKernel<Exports>(base64: string, memory: WebAssembly.Memory): Exports {
  let module = compiled.get(base64);
  if (!module) compiled.set(base64, (module = new WebAssembly.Module(bytesOf(base64))));
  return new WebAssembly.Instance(module, { env: { memory } }).exports as Exports;
}

const PAGE = 65_536;
/** What four numbers are read at once from begins at a multiple of so many bytes. */
const ALIGNED = 16;

/**
 * A memory with room for what is named, one after the other.
 *
 * @param bytes how much room each needs
 * @returns where each begins
 */
export function layOut<Name extends string>(
  bytes: Readonly<Record<Name, number>>,
): { readonly memory: WebAssembly.Memory; readonly places: Readonly<Record<Name, number>> } {
  let end = 0;
  const places = Object.entries<number>(bytes).map(([name, length]) => {
    const start = end;
    end = Math.ceil((end + length) / ALIGNED) * ALIGNED;
    return [name, start];
  });
  return {
    memory: new WebAssembly.Memory({ initial: Math.ceil(end / PAGE) }),
    places: Object.fromEntries(places) as Readonly<Record<Name, number>>,
  };
}
