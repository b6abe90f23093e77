/** What browsers and servers share and neither the language's own library nor that of the runtime declares. */
declare namespace WebAssembly {
  /** Compiled code, which threads may share. */
  interface Module {
    readonly [Symbol.toStringTag]: 'WebAssembly.Module';
  }
  function compile(bytes: Uint8Array): Promise<Module>;
}
