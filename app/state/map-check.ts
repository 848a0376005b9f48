import { createStore } from "zustand/vanilla";
import type { SampleFacts } from "../../core/analysis";
import { type Instrument, listNotes, newFace } from "../../core/instrument";
import type { Finding } from "../../core/mapping";
import { reasonOf } from "../basis/reason-of";
import { audioWorker } from "../workers/audio-worker";
import { documentWorker } from "../workers/document-worker";
import { tell } from "./notices";
import { session } from "./session";

interface MapCheck {
  /** What was found; null before anything was looked at. */
  readonly findings: readonly Finding[] | null;
  /** Samples whose audio was listened to, and how many there are. */
  readonly heard: number;
  readonly wanted: number;
}

/** Milliseconds after the last edit until the map is judged anew. */
const AFTER = 60;
/** Samples that are listened to at a time. */
const TOGETHER = 16;

/** Whether a pointer is down anywhere. */
const held = { down: false };
globalThis.addEventListener?.(
  "pointerdown",
  () => {
    held.down = true;
  },
  { capture: true },
);
for (const over of ["pointerup", "pointercancel"])
  globalThis.addEventListener?.(
    over,
    () => {
      held.down = false;
    },
    { capture: true },
  );

/** Judges the map as it is edited, in a worker, as long as somebody looks. */
class Checking {
  readonly store = createStore<MapCheck>(() => ({ findings: null, heard: 0, wanted: 0 }));
  private readonly facts = new Map<string, SampleFacts>();
  private readonly asked = new Set<string>();
  private lookers = 0;
  private judged: Pick<Instrument, "layers" | "samples"> | null = null;
  private judgedFacts = 0;
  private due: ReturnType<typeof setTimeout> | null = null;
  private busy = false;
  private listening = false;

  /** Judges from now on, until the function that it returns is called. `audio`: the samples themselves are listened to as well. */
  look(audio: boolean): () => void {
    this.lookers++;
    const stop = session.store.subscribe(() => this.soon(AFTER));
    this.soon(0);
    if (audio) void this.listen();
    return () => {
      stop();
      this.lookers--;
    };
  }

  private soon(wait: number): void {
    // While one edit follows the other nothing is judged: what is cloned for the worker would hold up a drag of thousands.
    if (this.due !== null) clearTimeout(this.due);
    this.due = setTimeout(() => {
      this.due = null;
      // Nor while a pointer holds something still: the frame in which it goes on would come late.
      if (held.down) this.soon(AFTER);
      else void this.judge();
    }, wait);
  }

  private async judge(): Promise<void> {
    const { instrument } = session;
    if (this.busy || !instrument || this.lookers === 0) return;
    if (!this.isStale(instrument)) return;
    this.busy = true;
    this.judged = instrument;
    this.judgedFacts = this.facts.size;
    try {
      // What the check doesn't look at stays here.
      // What it doesn't look at isn't handed over: pictures of a face may be many megabytes.
      const lean: Instrument = { ...instrument, takes: [], shots: [], face: newFace() };
      const findings = await documentWorker().checkMap(lean, this.facts);
      this.store.setState({ findings });
    } catch (error) {
      tell("error", `The map could not be checked: ${reasonOf(error)}.`);
    } finally {
      this.busy = false;
    }
    // It may have gone on meanwhile.
    if (session.instrument && this.isStale(session.instrument)) this.soon(AFTER);
  }

  /** Whether what was judged last isn't what there is now. */
  private isStale({ layers, samples }: Instrument): boolean {
    return layers !== this.judged?.layers || samples !== this.judged.samples || this.facts.size !== this.judgedFacts;
  }

  /** Listens to the samples of the instrument, a few at a time, each once. */
  private async listen(): Promise<void> {
    if (this.listening) return;
    this.listening = true;
    try {
      for (;;) {
        const notes = session.instrument ? listNotes(session.instrument) : [];
        const left = notes.filter((s) => !this.asked.has(s.sha)).slice(0, TOGETHER);
        const known = notes.filter((s) => this.facts.has(s.sha)).length;
        this.store.setState({ heard: known, wanted: notes.length });
        if (left.length === 0 || this.lookers === 0) return;
        for (const { sha } of left) this.asked.add(sha);
        const found = await audioWorker().sampleFacts(left.map((s) => s.sha));
        left.forEach(({ sha }, i) => {
          const facts = found[i];
          if (facts) this.facts.set(sha, facts);
        });
        this.soon(0);
      }
    } finally {
      this.listening = false;
    }
  }
}

export const mapCheck = new Checking();
