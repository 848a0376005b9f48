import type { Audio } from "../audio";
import type { Plan } from "./plan";
import { type Path, SampleStore } from "./sample-store";
import type { Voice, ZoneRef } from "./voice";

const MOST_REPEATS = 64;

/** The zones of the plan, how each is read, and whose turn it is among the repeats. */
export class ZoneTable {
  refs: readonly ZoneRef[] = [];
  groups = 0;
  private counters = new Uint16Array(0);
  private readonly repeats = new Int32Array(MOST_REPEATS);
  /** What is no longer in the plan, but may still be sounding. */
  private retiredPaths: Path[] = [];
  private retiredSamples: string[] = [];

  constructor(private readonly store: SampleStore) {}

  /** Takes a plan's zones; those that are read as before keep their path, others get a new one. */
  setPlan(plan: Plan): void {
    const before = new Map(this.refs.map((ref) => [ref.zone.id, ref]));
    const refs: ZoneRef[] = [];
    let groups = 0;
    plan.layers.forEach((layer, l) => {
      for (const group of layer.groups) {
        for (const zone of group.zones) {
          const old = before.get(zone.id)?.path ?? null;
          const path = old?.key === SampleStore.keyOf(zone) ? old : this.store.path(zone);
          refs.push({ zone, index: refs.length, layer: l, group: groups, path });
        }
        groups++;
      }
    });
    if (groups !== this.groups) this.counters = new Uint16Array(groups * 128);
    this.groups = groups;
    const kept = new Set(refs.map((ref) => ref.path));
    for (const { path } of this.refs) if (path && !kept.has(path)) this.retiredPaths.push(path);
    this.refs = refs;
    const wanted = new Set([...plan.samples, ...refs.map((ref) => ref.zone.sample)]);
    this.retiredSamples = this.store.shas().filter((sha) => !wanted.has(sha));
  }

  /** Puts a sample into memory; zones that waited for it can sound from now on. */
  addSample(sha: string, audio: Audio): void {
    this.retiredSamples = this.retiredSamples.filter((s) => s !== sha);
    this.store.add(sha, audio);
    for (const ref of this.refs) if (ref.zone.sample === sha) ref.path ??= this.store.path(ref.zone);
  }

  /** Gives back what no voice reads any more. */
  collect(voices: readonly Voice[]): void {
    if (this.retiredPaths.length === 0 && this.retiredSamples.length === 0) return;
    const read = new Set<Path>();
    const heard = new Set<string>();
    for (const voice of voices) {
      if (!voice.active || !voice.ref?.path) continue;
      read.add(voice.ref.path);
      heard.add(voice.ref.zone.sample);
    }
    this.retiredPaths = this.retiredPaths.filter((path) => read.has(path) || !this.store.release(path));
    this.retiredSamples = this.retiredSamples.filter((sha) => heard.has(sha) || !this.store.remove(sha));
  }

  /** The next of the round robins that answer a key at a velocity; each key of a group counts for itself. 0 where none answers. */
  chooseRepeat(group: number, key: number, velocity: number): number {
    const { repeats, refs } = this;
    let count = 0;
    for (let z = 0; z < refs.length; z++) {
      const { zone, group: own, path } = refs[z] as ZoneRef;
      if (own !== group || !path || key < zone.keyLow || key > zone.keyHigh) continue;
      if (velocity < zone.velLow || velocity >= zone.velHigh + 1) continue;
      let at = 0;
      while (at < count && (repeats[at] as number) < zone.repeat) at++;
      if ((at < count && repeats[at] === zone.repeat) || count === MOST_REPEATS) continue;
      repeats.copyWithin(at + 1, at, count);
      repeats[at] = zone.repeat;
      count++;
    }
    if (count === 0) return 0;
    const counter = group * 128 + key;
    const turn = this.counters[counter] as number;
    this.counters[counter] = turn + 1;
    return repeats[turn % count] as number;
  }

  reset(): void {
    this.counters.fill(0);
  }
}
