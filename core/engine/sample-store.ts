import { type Audio, framesOf } from "../audio";
import {
  likeness,
  loopedSample,
  MOST_TAPS,
  SPAN_BYTES,
  SPAN_END,
  SPAN_JUMP,
  SPAN_LEFT,
  SPAN_NEXT,
  SPAN_RIGHT,
} from "../dsp";
import type { Zone } from "../instrument";
import type { Heap } from "./heap";

/** Silent frames kept on either side of every stretch, so that no kernel reads outside it. */
const PAD = MOST_TAPS / 2 + 8;
/** A sound that ends before its sample does fades over so many frames. */
const TAIL = 192;

interface Stored {
  readonly at: number;
  readonly left: number;
  readonly right: number;
  readonly frames: number;
  readonly rate: number;
}

/** How a zone is read: the address of its first span, and what it holds besides its sample. */
export interface Path {
  readonly key: string;
  readonly first: number;
  readonly rate: number;
  readonly frames: number;
  readonly held: readonly number[];
}

/** Holds samples in the kernels' memory, and for each zone the spans by which a voice reads it. */
export class SampleStore {
  private readonly samples = new Map<string, Stored>();

  constructor(private readonly heap: Heap) {}

  has(sha: string): boolean {
    return this.samples.has(sha);
  }

  /** Copies a sample in; one that is there already stays. Values that aren't finite become 0. */
  add(sha: string, audio: Audio): void {
    if (this.samples.has(sha) || framesOf(audio) === 0) return;
    const frames = framesOf(audio);
    const stereo = audio.channels.length > 1;
    const stride = (frames + 2 * PAD) * 4;
    const at = this.heap.allocate(stereo ? stride * 2 : stride);
    audio.channels.slice(0, 2).forEach((channel, c) => {
      const from = (at + c * stride) / 4;
      const { f32 } = this.heap;
      f32.fill(0, from, from + frames + 2 * PAD);
      for (let i = 0; i < frames; i++) {
        const x = channel[i] as number;
        f32[from + PAD + i] = Number.isFinite(x) ? x : 0;
      }
    });
    const left = at + PAD * 4;
    this.samples.set(sha, { at, left, right: stereo ? left + stride : left, frames, rate: audio.rate });
  }

  /** Gives a sample's memory back; true, for callers that filter by it. */
  remove(sha: string): true {
    const stored = this.samples.get(sha);
    if (stored) this.heap.release(stored.at);
    this.samples.delete(sha);
    return true;
  }

  shas(): string[] {
    return [...this.samples.keys()];
  }

  static keyOf(zone: Zone): string {
    const { loop } = zone;
    return `${zone.sample}|${zone.end}|${loop ? `${loop.start},${loop.end},${loop.fade}` : "-"}`;
  }

  /** The spans of a zone; null while its sample isn't there. */
  path(zone: Zone): Path | null {
    const sample = this.samples.get(zone.sample);
    if (!sample) return null;
    const end = Math.min(zone.end, sample.frames);
    const { loop } = zone;
    const valid = loop !== null && loop.start >= 0 && loop.end <= sample.frames && loop.end - loop.start >= 2;
    const held = valid ? this.loopSpans(sample, loop) : this.plainSpans(sample, end);
    return { key: SampleStore.keyOf(zone), first: held[0] as number, rate: sample.rate, frames: sample.frames, held };
  }

  /** Gives a path's memory back; true, for callers that filter by it. */
  release(path: Path): true {
    for (const at of path.held) this.heap.release(at);
    return true;
  }

  /** Reads to the end, with a fade where the sample goes on. */
  private plainSpans(sample: Stored, end: number): number[] {
    if (end >= sample.frames || end < TAIL) return [this.span(sample.left, sample.right, end, 0, 0)];
    const from = end - TAIL;
    const { at, left, right } = this.bake(sample, from, end, (x, t) => {
      const place = Math.min(1, (t - from) / TAIL);
      return t < end ? (x[t] ?? 0) * (0.5 + 0.5 * Math.cos(Math.PI * place)) : 0;
    });
    const tail = this.span(left, right, end, 0, 0);
    return [this.span(sample.left, sample.right, from, tail, 0), tail, at];
  }

  /**
   * Reads up to the crossfade, then a baked seam that goes on a little past the loop's end, then back. A short loop is
   * unrolled inside the seam, where it goes round for ever.
   */
  private loopSpans(sample: Stored, loop: NonNullable<Zone["loop"]>): number[] {
    const length = loop.end - loop.start;
    const fade = Math.max(0, Math.min(loop.fade, loop.start, length));
    const settled = { start: loop.start, end: loop.end, fade };
    const from = Math.max(0, loop.end - fade - PAD);
    const long = loop.start + PAD < from;
    const rounds = long ? 1 : Math.ceil((2 * PAD + fade) / length) + 1;
    const to = loop.end + (long ? 0 : rounds * length) + PAD;
    const mono = this.heap.f32.slice(sample.left / 4, sample.left / 4 + sample.frames);
    const alike = fade > 0 ? likeness(mono, loop.end - fade, loop.start - fade, fade) : 1;
    const { at, left, right } = this.bake(sample, from, to, (x, t) => loopedSample(x, settled, alike, t));
    const main = this.span(sample.left, sample.right, from, 0, 0);
    const seam = this.span(left, right, to, 0, 0);
    const { u32, i32 } = this.heap;
    u32[(main + SPAN_NEXT) / 4] = seam;
    u32[(seam + SPAN_NEXT) / 4] = long ? main : seam;
    i32[(seam + SPAN_JUMP) / 4] = long ? -length : -rounds * length;
    return [main, seam, at];
  }

  /** Computes the frames `[from − PAD, to + PAD)` of a stream derived from the sample, addressed as if frame 0 stood before it. */
  private bake(sample: Stored, from: number, to: number, at: (x: Float32Array, t: number) => number) {
    const frames = to - from + 2 * PAD;
    const stereo = sample.right !== sample.left;
    const base = this.heap.allocate(frames * 4 * (stereo ? 2 : 1));
    const { f32 } = this.heap;
    const write = (source: number, target: number) => {
      const x = f32.subarray(source / 4, source / 4 + sample.frames);
      for (let i = 0; i < frames; i++) {
        const t = from - PAD + i;
        f32[target / 4 + i] = t < 0 ? 0 : at(x, t);
      }
    };
    write(sample.left, base);
    if (stereo) write(sample.right, base + frames * 4);
    const left = base - (from - PAD) * 4;
    return { at: base, left, right: stereo ? left + frames * 4 : left };
  }

  private span(left: number, right: number, end: number, next: number, jump: number): number {
    const at = this.heap.allocate(SPAN_BYTES);
    const { u32, i32 } = this.heap;
    u32[(at + SPAN_LEFT) / 4] = left;
    u32[(at + SPAN_RIGHT) / 4] = right;
    u32[(at + SPAN_END) / 4] = end;
    u32[(at + SPAN_NEXT) / 4] = next;
    i32[(at + SPAN_JUMP) / 4] = jump;
    return at;
  }
}
