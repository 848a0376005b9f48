/** What every host of the core (page, worker, worklet, Node) has beyond ECMAScript; the core itself has no DOM library. */
declare namespace WebAssembly {
  function validate(bytes: BufferSource): boolean;
  class Module {
    constructor(bytes: BufferSource);
  }
  class Memory {
    constructor(limits: { initial: number; maximum?: number; shared?: boolean });
    readonly buffer: ArrayBuffer;
    grow(pages: number): number;
  }
  class Instance {
    constructor(module: Module, imports?: Record<string, Record<string, unknown>>);
    readonly exports: Record<string, unknown>;
  }
}
type BufferSource = ArrayBufferView<ArrayBuffer> | ArrayBuffer;
