import type { Audio } from "../audio";
import type { Zone } from "../instrument";
import type { ReadyPath } from "./arrivals";
import type { Heap } from "./heap";
import { layPath, type Path } from "./path-builder";
import type { GroupPlan, Plan } from "./plan";
import type { SampleStore } from "./sample-store";
import { packSample } from "./stored-sample";
import type { Voice, ZoneRef } from "./voice";
import { bakeSeams, sameReading } from "./zone-reading";

/** Pieces of memory that are given back at once: thousands, as after a change of all loops, would take longer than a block has. */
const MOST_AT_ONCE = 64;

/** Where the zones of a group begin among all, and what all of them have in common. */
interface GroupSpan {
  readonly zones: readonly Zone[];
  readonly from: number;
  readonly layer: number;
  readonly computed: boolean;
}

const micOf = ({ mic }: Zone, mics: ReadonlyMap<string, number>): number => (mic === null ? -1 : (mics.get(mic) ?? -1));

/** The zones of the plan: how each is read, and which there are for each key. */
export class ZoneTable {
  refs: readonly ZoneRef[] = [];
  readonly byId = new Map<string, ZoneRef>();
  groups: readonly GroupPlan[] = [];
  /** Layer of each group. */
  layerOf = new Int32Array(0);
  private keyStart = new Int32Array(129);
  private keyZones = new Int32Array(0);
  private samples: readonly string[] = [];
  private mics: readonly string[] = [];
  private spans: readonly GroupSpan[] = [];

  /** `arriving`: seams come ready by `takePath`; until they do, a zone is read as it was. Otherwise they are made at once. */
  constructor(
    private readonly heap: Heap,
    private readonly store: SampleStore,
    private readonly arriving: boolean,
  ) {}

  /** Takes a plan's zones. Those that are read as before keep their path; what the plan has in common with the one before costs next to nothing. */
  setPlan(plan: Plan): void {
    const { refs: before } = this;
    this.store.holding = plan.holding;
    if (plan.samples !== this.samples) this.store.keep(plan.samples);
    this.samples = plan.samples;
    const mics = new Map(plan.mics.map((mic, i) => [mic.id, i]));
    const sameMics = plan.mics.length === this.mics.length && plan.mics.every((mic, i) => mic.id === this.mics[i]);
    if (!sameMics) this.mics = plan.mics.map((mic) => mic.id);
    // Thousands of zones that are as they were are copied at once, and those of a group that is as it was aren't even looked at.
    const refs = before.slice();
    const fresh: ZoneRef[] = [];
    const layers: number[] = [];
    const spans: GroupSpan[] = [];
    let count = 0;
    for (let l = 0; l < plan.layers.length; l++) {
      const layer = plan.layers[l] as Plan["layers"][number];
      const computed = layer.source !== null;
      for (let g = 0; g < layer.groups.length; g++) {
        const { zones } = layer.groups[g] as GroupPlan;
        const group = layers.length;
        const span = { zones, from: count, layer: l, computed };
        const known = this.spans[group];
        const same = sameMics && known?.from === count && known.layer === l && known.computed === computed;
        count += zones.length;
        layers.push(l);
        spans.push(span);
        if (same && known.zones === zones) continue;
        for (let n = 0; n < zones.length; n++) {
          const zone = zones[n] as Zone;
          const index = span.from + n;
          if (same && n < known.zones.length && known.zones[n] === zone) continue;
          const ref = { zone, index, layer: l, group, mic: micOf(zone, mics), computed, path: null };
          refs[index] = ref;
          fresh.push(ref);
        }
      }
    }
    refs.length = count;
    this.spans = spans;
    this.refs = refs;
    this.groups = plan.layers.flatMap((layer) => layer.groups);
    this.layerOf = Int32Array.from(layers);
    if (fresh.length > 0 || refs.length !== before.length) this.change(before, fresh);
  }

  /** Takes up the zones that are not as they were; what goes is what stood elsewhere before. */
  private change(before: readonly ZoneRef[], fresh: readonly ZoneRef[]): void {
    const { refs, byId } = this;
    const adopted = new Set<Path>();
    for (const ref of fresh) {
      const old = byId.get(ref.zone.id);
      const kept = old?.path && old.zone.sample === ref.zone.sample ? old.path : null;
      ref.path = old && kept && (this.arriving || sameReading(old.zone, ref.zone)) ? kept : this.make(ref);
      if (kept && ref.path === kept) adopted.add(kept);
    }
    let sameKeys = refs.length === before.length;
    for (const { index, zone } of fresh) {
      const old = before[index]?.zone;
      if (zone.keyLow !== old?.keyLow || zone.keyHigh !== old.keyHigh) sameKeys = false;
    }
    for (const { index } of fresh) this.forget(before[index], adopted);
    for (let i = refs.length; i < before.length; i++) this.forget(before[i], adopted);
    for (const ref of fresh) byId.set(ref.zone.id, ref);
    if (!sameKeys) this.listKeys();
  }

  private forget(old: ZoneRef | undefined, adopted: ReadonlySet<Path>): void {
    if (!old) return;
    this.byId.delete(old.zone.id);
    if (old.path && !adopted.has(old.path)) this.store.retirePath(old.path);
  }

  /** A zone's path, made here and now; null while its sample isn't there, or where paths come ready. */
  private make({ zone }: ZoneRef): Path | null {
    const sample = this.arriving || zone.sample === null ? undefined : this.store.get(zone.sample);
    return sample ? layPath(this.heap, sample, zone, bakeSeams(this.heap.memory.buffer, sample, zone)) : null;
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

  /** Whether a zone is silent only because its path is still on its way: its sample is there. */
  isComing({ zone, path }: ZoneRef): boolean {
    return path === null && zone.sample !== null && this.store.get(zone.sample) !== undefined;
  }

  /** Puts a sample into memory and makes the paths of its zones; one that is there already stays, unless it is to be held in another way. */
  addSample(sha: string, audio: Audio): void {
    const packed = this.store.has(sha) ? null : packSample(audio, this.store.holding);
    if (!packed) return;
    const stored = this.store.reserve(packed);
    this.store.fill(stored, packed, 0, packed.bytes.length);
    this.store.put(sha, stored);
    for (const ref of this.refs) if (ref.zone.sample === sha) this.replace(ref, this.make(ref));
  }

  /** Takes a path that was made elsewhere; false where its zone is another by now, or gone. */
  takePath({ zone, reading, seams }: ReadyPath): boolean {
    const ref = this.byId.get(zone);
    const sample = reading.sample === null ? undefined : this.store.get(reading.sample);
    if (!ref || !sample || !sameReading(ref.zone, reading)) return false;
    this.replace(ref, layPath(this.heap, sample, reading, seams));
    return true;
  }

  private replace(ref: ZoneRef, path: Path | null): void {
    if (ref.path) this.store.retirePath(ref.path);
    ref.path = path;
  }

  /** Takes a sample away, as when its file has vanished; zones that play it fall silent until it comes again. */
  dropSample(sha: string): void {
    for (const ref of this.refs) if (ref.zone.sample === sha) this.replace(ref, null);
    this.store.remove(sha);
  }

  /** Gives back what no voice reads any more, at the most so many pieces at once. */
  collect(voices: readonly Voice[], most = MOST_AT_ONCE): void {
    if (this.store.idle) return;
    this.store.collect(new Set(voices.map((voice) => (voice.active ? voice.path : null))), most);
  }
}
