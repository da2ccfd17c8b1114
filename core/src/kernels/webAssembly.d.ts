/** What of WebAssembly is used here: the core is compiled without the names of a browser (WebAssembly JavaScript Interface, W3C). */
declare namespace WebAssembly {
  class Module {
    private readonly compiled: true;
    constructor(bytes: Uint8Array);
  }
  class Memory {
    readonly buffer: ArrayBuffer;
    constructor(of: { readonly initial: number });
  }
  class Instance {
    readonly exports: Readonly<Record<string, unknown>>;
    constructor(module: Module, imports: Readonly<Record<string, Readonly<Record<string, unknown>>>>);
  }
}
