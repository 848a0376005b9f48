import type { QuickJSContext, QuickJSHandle } from "quickjs-emscripten-core";

/** Numbers before the notes: how many notes there are, and the key, velocity and time that a handler is called with. */
export const HEAD = 4;
export const PER_NOTE = 4;

let boxes = 0;

/**
 * Numbers that a script and its host both see, so that a note costs neither of them any objects. The interpreter tells nobody where an array of its
 * own lies: it is found by what stands in it.
 */
export class Box {
  readonly handle: QuickJSHandle;
  private readonly at: number;
  private view: Float64Array;

  /** Room for so many notes in a memory. Throws RangeError where the array can't be found there. */
  constructor(
    private readonly memory: WebAssembly.Memory,
    context: QuickJSContext,
    readonly notes: number,
  ) {
    const length = HEAD + PER_NOTE * notes;
    const begin = -1e300 / (1 + ++boxes);
    const pattern = Float64Array.from({ length }, (_, i) => begin * (1 + i / 8192));
    this.handle = context.newArrayBuffer(pattern.buffer);
    const all = new Float64Array(memory.buffer);
    let at = all.indexOf(begin);
    while (at >= 0 && !pattern.every((value, i) => all[at + i] === value)) at = all.indexOf(begin, at + 1);
    if (at < 0) throw new RangeError("the interpreter's memory can't be seen");
    this.at = at * 8;
    this.view = all.subarray(at, at + length);
    this.view.fill(0);
  }

  /** The numbers as they lie now: a view of memory that has grown since is empty. */
  get values(): Float64Array {
    if (this.view.length === 0) this.view = new Float64Array(this.memory.buffer, this.at, HEAD + PER_NOTE * this.notes);
    return this.view;
  }
}
