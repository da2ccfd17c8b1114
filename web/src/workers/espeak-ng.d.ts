/** What of the synthesiser's program is used; the package brings no types. */
declare module 'espeak-ng' {
  interface Options {
    /** As on a command line. */
    readonly arguments: readonly string[];
    readonly print?: (line: string) => void;
    readonly printErr?: (line: string) => void;
    readonly instantiateWasm?: (
      imports: WebAssembly.Imports,
      done: (instance: WebAssembly.Instance, module: WebAssembly.Module) => void,
    ) => Record<string, never>;
  }
  interface Run {
    readonly FS: { readFile(path: string): Uint8Array };
  }
  export default function open(options: Options): Promise<Run>;
}
