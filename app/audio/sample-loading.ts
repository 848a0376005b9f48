import type { Holding } from "../../core/engine";
import { readingOf, sameReading } from "../../core/engine";
import { assetsOf, type Instrument, listZones, playedSamples, type Zone } from "../../core/instrument";
import { reasonOf } from "../basis/reason-of";
import type { Calls } from "../basis/worker-calls";
import type { ToEngine } from "./protocol";
import type { SampleLoader, ZoneToRead } from "./sample-loader";

export type LoaderCalls = Calls<SampleLoader>;

/** What it is told to: the audio thread, the person, and whoever shows how far it is. */
interface LoadingOutlets {
  readonly send: (message: ToEngine, transfer: Transferable[]) => void;
  readonly told: (text: string) => void;
  readonly progress: (loaded: number, wanted: number) => void;
}

/** Paths that are asked for at once. */
const MOST_PATHS = 64;

/** Keeps the audio thread's samples and paths as the instrument has them, one after the other, whatever the instrument becomes meanwhile. */
export class SampleLoading {
  private instrument: Instrument | null = null;
  private rate = 0;
  private holding: Holding = "asRecorded";
  private wanted: readonly Wanted[] = [];
  /** What the audio thread has: samples by content and use, and each zone as it was when its path was sent. */
  private readonly sent = new Set<string>();
  private readonly laid = new Map<string, Zone>();
  private zones: readonly Zone[] = [];
  /** Zones whose path is to be sent, by their sample. */
  private readonly due = new Map<string, Map<string, Zone>>();
  /** Samples that could not be read, so that they are told once. */
  private readonly unread = new Set<string>();
  private busy = false;
  /** Counts the audio threads: an answer for one that is gone is nobody's. */
  private thread = 0;

  constructor(
    private readonly loader: LoaderCalls,
    private readonly to: LoadingOutlets,
  ) {}

  /** An audio thread begins that has nothing yet. */
  begin(rate: number): void {
    this.rate = rate;
    this.thread++;
    this.forget();
  }

  /** The audio thread has the plan of an instrument now: it forgets samples that the plan no longer lists, and lacks what is new. */
  show(instrument: Instrument): void {
    if (this.instrument?.id !== instrument.id) this.unread.clear();
    this.instrument = instrument;
    const holding = instrument.play.params.sampleMemory as Holding;
    // What is held in another way is handed over again.
    if (holding !== this.holding) this.forget();
    this.holding = holding;
    this.wanted = wantedBy(instrument);
    const keys = new Set(this.wanted.map(keyOf));
    for (const key of this.sent) if (!keys.has(key)) this.sent.delete(key);
    this.takeZones(listZones(instrument));
    this.tellProgress();
    void this.run();
  }

  /** What could not be read is asked for again, such as a sample that was found; the audio thread gets everything anew. */
  again(): void {
    this.unread.clear();
    this.forget();
    if (this.instrument) this.show(this.instrument);
  }

  /** Finds out which zones' paths are due. Of thousands that are as before only those are looked at that aren't. */
  private takeZones(zones: readonly Zone[]): void {
    const before = this.zones;
    this.zones = zones;
    const fresh: Zone[] = [];
    const gone = new Set<string>();
    for (let i = 0; i < Math.max(zones.length, before.length); i++) {
      const [zone, old] = [zones[i], before[i]];
      if (zone === old) continue;
      if (zone) fresh.push(zone);
      if (!old) continue;
      gone.add(old.id);
      if (old.sample !== null) this.due.get(old.sample)?.delete(old.id);
    }
    for (const zone of fresh) {
      gone.delete(zone.id);
      if (zone.sample === null) continue;
      const was = this.laid.get(zone.id);
      if (was && sameReading(was, zone)) continue;
      this.laid.delete(zone.id);
      const waiting = this.due.get(zone.sample);
      if (waiting) waiting.set(zone.id, zone);
      else this.due.set(zone.sample, new Map([[zone.id, zone]]));
    }
    for (const id of gone) this.laid.delete(id);
  }

  /** Everything is to be sent anew. */
  private forget(): void {
    this.sent.clear();
    this.laid.clear();
    this.due.clear();
    this.zones = [];
  }

  private tellProgress(): void {
    // What can't be read isn't on its way any more.
    this.to.progress(this.sent.size, this.wanted.filter((w) => !this.unread.has(keyOf(w))).length);
  }

  private async run(): Promise<void> {
    if (this.busy) return;
    this.busy = true;
    while (this.thread > 0 && (await this.step()));
    this.busy = false;
  }

  /** Loads what is wanted next: first what was changed, for somebody is at it. False where nothing is left. */
  private async step(): Promise<boolean> {
    const changed = [...this.due].find(([sha, zones]) => zones.size > 0 && this.sent.has(noteKey(sha)))?.[0];
    if (changed !== undefined) {
      await this.load({ sha: changed, use: "note" }, () => this.loadPaths(changed));
      return true;
    }
    const next = this.wanted.find((w) => !this.sent.has(keyOf(w)) && !this.unread.has(keyOf(w)));
    if (!next) return false;
    await this.load(next, () => (next.use === "note" ? this.loadSample(next.sha) : this.loadImpulse(next.sha)));
    return true;
  }

  /** One that can't be read keeps no other waiting. */
  private async load(wanted: Wanted, how: () => Promise<boolean>): Promise<void> {
    const { instrument } = this;
    try {
      if (await how()) return;
    } catch (error) {
      this.tellUnread(wanted.sha, error, instrument);
    }
    this.unread.add(keyOf(wanted));
    this.tellProgress();
  }

  private tellUnread(sha: string, error: unknown, instrument = this.instrument): void {
    const name = instrument?.samples.find((s) => s.sha === sha)?.name ?? sha;
    this.to.told(`The sample ${name} can't be read: ${reasonOf(error)}.`);
  }

  private async loadSample(sha: string): Promise<boolean> {
    const { thread, holding } = this;
    const zones = this.take(sha);
    const ready = await this.loader.sample(sha, holding, zones.map(toRead));
    if (thread !== this.thread || holding !== this.holding) return true;
    if (!ready) return false;
    this.sent.add(noteKey(sha));
    this.to.send({ type: "sample", sha, packed: ready.packed }, [ready.packed.bytes.buffer]);
    this.sendPaths(ready.paths, zones);
    this.tellProgress();
    return true;
  }

  private async loadPaths(sha: string): Promise<boolean> {
    const { thread, holding } = this;
    const zones = this.take(sha);
    const paths = await this.loader.paths(sha, holding, zones.map(toRead));
    if (thread === this.thread && holding === this.holding) this.sendPaths(paths, zones);
    return true;
  }

  /** Has the cycles of a sample made, and sends them: the audio thread asks for those that it lacks. */
  async makeCycles(sha: string, cycle: number): Promise<void> {
    const { thread, holding } = this;
    try {
      const ready = await this.loader.cycles(sha, holding, cycle);
      if (ready && thread === this.thread) this.to.send({ type: "cycles", sha, ready }, [ready.floats.buffer]);
    } catch (error) {
      this.tellUnread(sha, error);
    }
  }

  /** Has the simple waves' tables made, and sends them: the audio thread asks for them when it first needs one. */
  async makeWaves(): Promise<void> {
    const { thread } = this;
    try {
      const ready = await this.loader.waves();
      if (thread === this.thread) this.to.send({ type: "waves", ready }, [ready.buffer]);
    } catch (error) {
      this.to.told(`The oscillators stay dull: their waves can't be made (${reasonOf(error)}).`);
    }
  }

  private async loadImpulse(sha: string): Promise<boolean> {
    const { thread } = this;
    const audio = await this.loader.audio(sha, this.rate);
    if (thread !== this.thread) return true;
    if (!audio) return false;
    this.sent.add(keyOf({ sha, use: "impulse" }));
    const { rate, channels } = audio;
    this.to.send({ type: "impulse", sha, rate, channels }, [...new Set(channels.map((c) => c.buffer as ArrayBuffer))]);
    this.tellProgress();
    return true;
  }

  /** The next zones of a sample whose paths are due. */
  private take(sha: string): readonly Zone[] {
    const waiting = this.due.get(sha) ?? new Map<string, Zone>();
    const zones = [...waiting.values()].slice(0, MOST_PATHS);
    for (const { id } of zones) waiting.delete(id);
    if (waiting.size === 0) this.due.delete(sha);
    return zones;
  }

  private sendPaths(paths: Extract<ToEngine, { type: "paths" }>["paths"], zones: readonly Zone[]): void {
    const done = new Set(paths.map((path) => path.zone));
    for (const zone of zones) if (done.has(zone.id)) this.laid.set(zone.id, zone);
    if (paths.length > 0) {
      const buffers = paths.flatMap((path) => path.seams.map((seam) => seam.buffer as ArrayBuffer));
      this.to.send({ type: "paths", paths }, buffers);
    }
  }
}

const toRead = (zone: Zone): ZoneToRead => ({ zone: zone.id, reading: readingOf(zone) });

interface Wanted {
  readonly sha: string;
  readonly use: "note" | "impulse";
}

const keyOf = ({ sha, use }: Wanted): string => `${use} ${sha}`;
const noteKey = (sha: string): string => keyOf({ sha, use: "note" });

/** What the engine needs of an instrument: the samples that are there to be played, and the impulses of its rooms. */
function wantedBy(instrument: Instrument): Wanted[] {
  const played = playedSamples(instrument);
  const notes = instrument.samples
    .filter((s) => s.use === "note" || played.has(s.sha))
    .map(({ sha }) => ({ sha, use: "note" as const }));
  return [...notes, ...assetsOf(instrument).map((sha) => ({ sha, use: "impulse" as const }))];
}
