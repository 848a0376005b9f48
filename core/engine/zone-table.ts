import type { Audio } from "../audio";
import type { Path } from "./path-builder";
import type { GroupPlan, Plan } from "./plan";
import { SampleStore } from "./sample-store";
import type { StoredSample } from "./stored-sample";
import type { Voice, ZoneRef } from "./voice";

/** Pieces of memory that are given back at once: thousands, as after a change of all loops, would take longer than a block has. */
const MOST_AT_ONCE = 64;

/** The zones of the plan: how each is read, and which there are for each key. */
export class ZoneTable {
  refs: readonly ZoneRef[] = [];
  groups: readonly GroupPlan[] = [];
  /** Layer of each group. */
  layerOf = new Int32Array(0);
  private keyStart = new Int32Array(129);
  private keyZones = new Int32Array(0);
  /** What is no longer in the plan, but may still be sounding. */
  private retiredPaths: Path[] = [];
  private retiredSamples: string[] = [];
  private retiredCopies: { readonly copy: StoredSample; readonly paths: ReadonlySet<Path> }[] = [];
  private waiting = new Map<string, ZoneRef[]>();

  constructor(private readonly store: SampleStore) {}

  /** Takes a plan's zones; those that are read as before keep their path, others get a new one. */
  setPlan(plan: Plan): void {
    this.store.holding = plan.holding;
    const before = new Map(this.refs.map((ref) => [ref.zone.id, ref]));
    const refs: ZoneRef[] = [];
    const layers: number[] = [];
    plan.layers.forEach((layer, l) => {
      for (const group of layer.groups) {
        for (const zone of group.zones) {
          const old = before.get(zone.id)?.path ?? null;
          const same = old !== null && old.key === SampleStore.keyOf(zone);
          const path = same ? old : this.store.path(zone);
          const mic = zone.mic === null ? -1 : plan.mics.findIndex((m) => m.id === zone.mic);
          refs.push({ zone, index: refs.length, layer: l, group: layers.length, mic, path });
        }
        layers.push(l);
      }
    });
    const kept = new Set(refs.map((ref) => ref.path));
    for (const { path } of this.refs) if (path && !kept.has(path)) this.retiredPaths.push(path);
    this.refs = refs;
    this.groups = plan.layers.flatMap((layer) => layer.groups);
    this.layerOf = Int32Array.from(layers);
    this.listKeys();
    const wanted = new Set([...plan.samples, ...refs.map((ref) => ref.zone.sample)]);
    this.retiredSamples = this.store.shas().filter((sha) => !wanted.has(sha));
    this.waiting = new Map();
    for (const ref of refs) {
      if (ref.path === null) this.waiting.set(ref.zone.sample, [...(this.waiting.get(ref.zone.sample) ?? []), ref]);
    }
  }

  private listKeys(): void {
    const counts = new Int32Array(129);
    for (const { zone } of this.refs)
      for (let k = zone.keyLow; k <= zone.keyHigh; k++) counts[k + 1] = (counts[k + 1] as number) + 1;
    for (let k = 0; k < 128; k++) counts[k + 1] = (counts[k + 1] as number) + (counts[k] as number);
    this.keyStart = counts.slice();
    this.keyZones = new Int32Array(counts[128] as number);
    for (const { zone, index } of this.refs) {
      for (let k = zone.keyLow; k <= zone.keyHigh; k++) {
        this.keyZones[counts[k] as number] = index;
        counts[k] = (counts[k] as number) + 1;
      }
    }
  }

  /** How many zones a key has, and the n-th of them; those of one group stand together. */
  countAt(key: number): number {
    return (this.keyStart[key + 1] as number) - (this.keyStart[key] as number);
  }
  at(key: number, n: number): ZoneRef {
    return this.refs[this.keyZones[(this.keyStart[key] as number) + n] as number] as ZoneRef;
  }

  /** Puts a sample into memory; zones that waited for it can sound from now on. */
  addSample(sha: string, audio: Audio): void {
    this.retiredSamples = this.retiredSamples.filter((s) => s !== sha);
    const old = this.store.add(sha, audio);
    if (old) this.renew(sha, old);
    for (const ref of this.waiting.get(sha) ?? []) ref.path ??= this.store.path(ref.zone);
    this.waiting.delete(sha);
  }

  /** A sample is held in another way now: its zones are read from the new copy; what sounds reads the old one to its end. */
  private renew(sha: string, copy: StoredSample): void {
    const paths = new Set<Path>();
    for (const ref of this.refs) {
      if (ref.zone.sample !== sha || !ref.path) continue;
      paths.add(ref.path);
      ref.path = this.store.path(ref.zone);
    }
    this.retiredPaths.push(...paths);
    this.retiredCopies.push({ copy, paths });
  }

  /** Takes a sample away, as when its file has vanished; zones that play it fall silent until it comes again. */
  dropSample(sha: string): void {
    const paths = new Set<Path>();
    for (const ref of this.refs) {
      if (ref.zone.sample !== sha || !ref.path) continue;
      paths.add(ref.path);
      ref.path = null;
      this.waiting.set(sha, [...(this.waiting.get(sha) ?? []), ref]);
    }
    this.retiredPaths.push(...paths);
    if (this.store.has(sha)) this.retiredSamples.push(sha);
  }

  /** Gives back what no voice reads any more, at the most so many pieces at once. */
  collect(voices: readonly Voice[], most = MOST_AT_ONCE): void {
    if (this.retiredPaths.length + this.retiredSamples.length + this.retiredCopies.length === 0) return;
    const read = new Set<Path>();
    const heard = new Set<string>();
    for (const voice of voices) {
      if (!voice.active || !voice.path) continue;
      read.add(voice.path);
      if (voice.ref) heard.add(voice.ref.zone.sample);
    }
    this.retiredCopies = this.retiredCopies.filter(
      ({ copy, paths }) => [...paths].some((path) => read.has(path)) || !this.store.releaseCopy(copy),
    );
    let left = most;
    const budget = () => left-- > 0;
    this.retiredPaths = this.retiredPaths.filter((path) => read.has(path) || !budget() || !this.store.release(path));
    this.retiredSamples = this.retiredSamples.filter((sha) => heard.has(sha) || !budget() || !this.store.remove(sha));
  }
}
