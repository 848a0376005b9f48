import moduleLoader from "@jitl/quickjs-wasmfile-release-sync/emscripten-module";
import { QuickJSFFI } from "@jitl/quickjs-wasmfile-release-sync/ffi";
import {
  DefaultIntrinsics,
  newQuickJSWASMModuleFromVariant,
  newVariant,
  type QuickJSContext,
  type QuickJSHandle,
  type QuickJSRuntime,
  type QuickJSSyncVariant,
  type QuickJSWASMModule,
} from "quickjs-emscripten-core";
import type { EmitNote, NoteRules } from "../engine";
import { Box, HEAD, PER_NOTE } from "./box";
import { METERED } from "./metered";
import { PRELUDE } from "./prelude";

/** What went wrong in a script: the line where it did (from 1; null when unknown) and the reason. */
export interface RuleProblem {
  readonly line: number | null;
  readonly reason: string;
  /** Whether the script was switched off because it kept failing. */
  readonly stopped: boolean;
}

const FILE = "rules.js";
/**
 * How often the interpreter may look up (about every 10,000 steps, 0.5 to 2 ms) before a handler or the script's top level is
 * ended. A count, so that results don't hang on the clock.
 */
const PATIENCE = { handler: 4, load: 20 } as const;
/** How often it may look up for all handlers of one block together: what is left over is not saved up. */
const BLOCK_PATIENCE = 8;
/**
 * Bytes of the interpreter's stack. A script that calls itself uses the audio thread's own stack as fast, and that is small: with 256 KiB the
 * thread's was exhausted first, and everything fell silent.
 */
const STACK_BYTES = 48 * 1024;
const MOST_NOTES = 16;
/** Blocks for which what rules may cost is counted together, of about 3 ms. */
const BLOCKS_A_SECOND = 375;
/** A script that overruns so many times in a row is switched off. */
const MOST_OVERRUNS = 3;
const HEAP_BYTES = 3 * 1024 * 1024;

/** The interpreter, ready to take scripts: QuickJS in a WebAssembly memory of its own with a firm upper bound. */
export class Sandbox {
  private constructor(
    private readonly quickjs: QuickJSWASMModule,
    private readonly memory: WebAssembly.Memory,
  ) {}

  /** Starts the interpreter from its compiled module. */
  static async open(wasm: WebAssembly.Module): Promise<Sandbox> {
    const base: QuickJSSyncVariant = {
      type: "sync",
      importFFI: async () => QuickJSFFI as never,
      importModuleLoader: async () => moduleLoader as never,
    };
    const memory = new WebAssembly.Memory({ initial: 256, maximum: 512 });
    const variant = newVariant(base, {
      wasmModule: wasm as never,
      wasmMemory: memory as never,
      emscriptenModule: {
        instantiateWasm: (imports: never, done: (instance: never) => void) => {
          const instance = new WebAssembly.Instance(wasm, imports);
          done(instance as never);
          return instance.exports;
        },
      } as never,
    });
    return new Sandbox(await newQuickJSWASMModuleFromVariant(variant), memory);
  }

  /** Runs a script's top level. `report` hears of every failure, now and later. Null when it doesn't even begin. */
  load(script: string, seed: number, report: (problem: RuleProblem) => void): RuleScript | null {
    const runtime = this.quickjs.newRuntime();
    runtime.setMemoryLimit(HEAP_BYTES);
    runtime.setMaxStackSize(STACK_BYTES);
    const context = runtime.newContext({ intrinsics: { ...DefaultIntrinsics, Date: false, Proxy: false } });
    const rules = new RuleScript(runtime, context, report, this.memory);
    if (rules.begin(script, seed)) return rules;
    if (!rules.lost) rules.dispose();
    return null;
  }
}

/** A running script. */
export class RuleScript implements NoteRules {
  /** Whether the interpreter itself gave in: it can't be used any more, by this script or another. */
  lost = false;
  private polls = 0;
  private patience: number = PATIENCE.load;
  /** What is left for the handlers of this block, and the time of the block. */
  private blockLeft: number = BLOCK_PATIENCE;
  private blockTime = -1;
  private overruns = 0;
  private stopped = false;
  /** How often the interpreter looked up during the last handler, and how often it may: about 10,000 of its steps each. */
  get spent(): { readonly polls: number; readonly most: number } {
    return { polls: this.polls, most: this.patience };
  }
  /** What goes into a handler and comes out of it. */
  private readonly box: Box;
  private startHandle: QuickJSHandle | null = null;
  private endHandle: QuickJSHandle | null = null;

  constructor(
    private readonly runtime: QuickJSRuntime,
    private readonly context: QuickJSContext,
    private readonly report: (problem: RuleProblem) => void,
    memory: WebAssembly.Memory,
  ) {
    this.box = new Box(memory, context, MOST_NOTES);
    runtime.setInterruptHandler(() => ++this.polls > this.patience);
  }

  /** Sets up the script's world and runs its top level; false when that fails, which is reported. */
  begin(script: string, seed: number): boolean {
    const { context } = this;
    context.setProp(context.global, "__box", this.box.handle);
    context.setProp(context.global, "__seed", context.newNumber(seed));
    const world = this.evaluate(PRELUDE, "prelude.js") && this.evaluate(METERED, "metered.js");
    if (!world || !this.evaluate(script, FILE)) return false;
    this.startHandle = context.getProp(context.global, "__start");
    this.endHandle = context.getProp(context.global, "__end");
    return true;
  }

  start(key: number, velocity: number, time: number, emit: EmitNote): boolean {
    return this.call(this.startHandle, key, velocity, time, emit);
  }

  end(key: number, time: number, emit: EmitNote): boolean {
    return this.call(this.endHandle, key, 0, time, emit);
  }

  dispose(): void {
    if (this.lost) return;
    this.box.handle.dispose();
    this.startHandle?.dispose();
    this.endHandle?.dispose();
    this.context.dispose();
    this.runtime.dispose();
  }

  private evaluate(code: string, file: string): boolean {
    this.polls = 0;
    this.patience = PATIENCE.load;
    try {
      const result = this.context.evalCode(code, file);
      if (result.error) {
        this.fail(this.context.dump(result.error));
        result.error.dispose();
        return false;
      }
      result.value.dispose();
      return true;
    } catch (error) {
      return this.lose(error);
    }
  }

  /** The interpreter has thrown, as when the thread's own stack is used up: nothing of it is sound any more. */
  private lose(error: unknown): false {
    this.lost = true;
    this.stopped = true;
    const why = error instanceof RangeError ? "it calls itself too often" : "it broke the interpreter";
    this.report({ line: null, reason: `${why}. It is off until it is changed.`, stopped: true });
    return false;
  }

  private call(handler: QuickJSHandle | null, key: number, velocity: number, time: number, emit: EmitNote): boolean {
    if (!handler || this.stopped) return false;
    // Notes of one moment share what there is: many keys at once may not cost many times as much.
    const block = Math.floor(time * BLOCKS_A_SECOND);
    if (block !== this.blockTime) this.blockLeft = BLOCK_PATIENCE;
    this.blockTime = block;
    if (this.blockLeft <= 0) return false;
    this.polls = 0;
    this.patience = Math.min(PATIENCE.handler, this.blockLeft);
    const { context } = this;
    try {
      const { values } = this.box;
      values[1] = key;
      values[2] = velocity;
      values[3] = time;
      const result = context.callFunction(handler, context.undefined);
      this.blockLeft -= this.polls;
      if (result.error) {
        this.fail(context.dump(result.error));
        result.error.dispose();
        return false;
      }
      result.value.dispose();
    } catch (error) {
      return this.lose(error);
    }
    this.overruns = 0;
    const { values } = this.box;
    const end = HEAD + PER_NOTE * Math.min(MOST_NOTES, values[0] as number);
    // The script's own side has looked already: it is not what is trusted.
    for (let at = HEAD; at < end; at++) {
      if (Number.isFinite(values[at])) continue;
      this.report({ line: null, reason: "what it made of a note is no number", stopped: false });
      return false;
    }
    for (let at = HEAD; at < end; at += PER_NOTE) {
      emit(values[at] as number, values[at + 1] as number, values[at + 2] as number, values[at + 3] as number);
    }
    return true;
  }

  private fail(error: unknown): void {
    const overrun = this.polls > this.patience;
    if (overrun && ++this.overruns >= MOST_OVERRUNS) this.stopped = true;
    const { message = String(error), stack = "" } = (typeof error === "object" && error !== null ? error : {}) as {
      message?: string;
      stack?: string;
    };
    const at = /rules\.js:(\d+)/.exec(stack);
    const reason = overrun
      ? "it ran too long and was ended; the note sounded as played"
      : /stack overflow/i.test(message)
        ? "it calls itself without end; the note sounded as played"
        : message;
    this.report({
      line: at ? Number(at[1]) : null,
      reason: this.stopped ? `${reason}. It is off until it is changed.` : reason,
      stopped: this.stopped,
    });
  }
}
