import { createStore } from "zustand/vanilla";
import { monoOf } from "../../core/audio";
import { newSlice, type Shot, type Slice } from "../../core/instrument";
import {
  type Captured,
  type FollowState,
  HANDS_FREE,
  type HandsFree,
  type Landed,
  nextShot,
  ShotFollower,
  type ShotVerdict,
} from "../../core/mapping";

/** What comes before each entry: nothing, three ticks, or the tone of its note. */
export type Cue = "none" | "count" | "tone";
const CUE_SECONDS: Readonly<Record<Cue, number>> = { none: 0, count: 1.8, tone: 1.2 };

export interface SessionView {
  readonly running: boolean;
  readonly shots: readonly Shot[];
  /** The entry that is waited for; null when all is done. */
  readonly shot: Shot | null;
  readonly state: FollowState;
  /** How often this entry has been tried. */
  readonly attempt: number;
  /** What is to be said of the last sound; null before the first. */
  readonly verdict: ShotVerdict | null;
  /** The entry for which it came. */
  readonly judged: Shot | null;
  /** Level of the input above the room, and the room's own level, in dB. */
  readonly floor: number | null;
  readonly level: number;
  /** Length of the last sound in seconds. */
  readonly rang: number | null;
}

const IDLE: SessionView = {
  running: false,
  shots: [],
  shot: null,
  state: "room",
  attempt: 0,
  verdict: null,
  judged: null,
  floor: null,
  level: -120,
  rang: null,
};

/** What a session needs of the world. */
interface SessionWorld {
  readonly judge: (
    captured: Captured,
    shot: Shot,
    floor: number,
    landed: readonly Landed[],
    tolerance: number,
  ) => Promise<ShotVerdict>;
  /** Sounds what comes before an entry, through the speakers. */
  readonly sound: (cue: Cue, shot: Shot) => void;
  /** Frames of the recording at which sound was lost, as far as is known. */
  readonly gaps: () => readonly number[];
  /** Told of all sounds that have come in whenever there is another, or one is kept after all or no more. */
  readonly caught: (slices: readonly Slice[]) => void;
  /** Told whenever an entry's state has changed. */
  readonly changed: (shots: readonly Shot[]) => void;
}

const LOST = "a part of it was lost, for the computer was too busy";

interface Caught {
  readonly shot: Shot;
  readonly captured: Captured;
  readonly verdict: ShotVerdict;
  keep: boolean;
}

/** Walks a shot list hands-free: announces an entry, hears its sound out, judges it, marks it done or asks again. */
export class ShotSession {
  readonly store = createStore<SessionView>(() => IDLE);
  private follower: ShotFollower | null = null;
  private caught: Caught[] = [];
  private rate = 44100;
  private cue: Cue = "none";
  private how: HandsFree = HANDS_FREE;
  private paused = false;

  constructor(private readonly world: SessionWorld) {}

  /** Begins with the first open entry of the list. */
  start(shots: readonly Shot[], rate: number, cue: Cue, how: HandsFree = HANDS_FREE): void {
    this.rate = rate;
    this.how = how;
    this.cue = cue;
    this.caught = [];
    this.paused = false;
    this.follower = new ShotFollower({ rate, ...how });
    this.store.setState({ ...IDLE, running: true, shots });
    this.announce(nextShot(shots));
  }

  /** Takes what was recorded next. */
  take(chunk: readonly Float32Array[]): void {
    const { follower } = this;
    if (!follower) return;
    const captured = follower.take(monoOf({ rate: this.rate, channels: chunk }));
    this.store.setState({ state: follower.state, level: follower.level, floor: follower.floor });
    if (captured) void this.judge(captured);
  }

  private async judge(captured: Captured): Promise<void> {
    const { shot } = this.store.getState();
    if (!shot || !this.follower) return;
    const landed = this.caught
      .filter((c) => c.keep)
      .map((c) => ({ note: c.shot.note, strength: c.shot.strength, peak: c.verdict.peak }));
    const heard = await this.world.judge(captured, shot, this.follower.floor ?? -120, landed, this.how.tolerance);
    if (!this.store.getState().running) return;
    const verdict = this.broken(captured) ? { ...heard, problems: [LOST, ...heard.problems] } : heard;
    const good = verdict.problems.length === 0;
    this.caught.push({ shot, captured, verdict, keep: good });
    this.world.caught(this.slices());
    const rang = (captured.end - captured.onset) / this.rate;
    this.store.setState({ verdict, judged: shot, rang });
    if (good) this.finish(shot, "done");
    else {
      this.store.setState({ attempt: this.store.getState().attempt + 1 });
      this.announce(shot);
    }
  }

  private broken({ start, end }: Captured): boolean {
    return this.world.gaps().some((gap) => gap >= start && gap < end);
  }

  /** Marks an entry and goes on to the next. */
  private finish(shot: Shot, state: Shot["state"]): void {
    const shots = this.store.getState().shots.map((s) => (s.id === shot.id ? { ...s, state } : s));
    this.store.setState({ shots, attempt: 0 });
    this.world.changed(shots);
    const at = shots.findIndex((s) => s.id === shot.id);
    this.announce(nextShot(shots, at + 1));
  }

  private announce(shot: Shot | null): void {
    this.store.setState({ shot });
    if (!shot || !this.follower || this.paused) {
      this.follower?.pause();
      this.store.setState({ state: "paused" });
      return;
    }
    if (this.cue !== "none") this.world.sound(this.cue, shot);
    this.follower.listen(CUE_SECONDS[this.cue]);
    this.store.setState({ state: this.follower.state });
  }

  pause(): void {
    this.paused = true;
    this.follower?.pause();
    this.store.setState({ state: "paused" });
  }

  resume(): void {
    this.paused = false;
    this.announce(this.store.getState().shot);
  }

  skip(): void {
    const { shot } = this.store.getState();
    if (shot) this.finish(shot, "skipped");
  }

  /** Takes the last sound although something was said against it. */
  accept(): void {
    const last = this.caught.at(-1);
    const { shot } = this.store.getState();
    if (!last || last.keep || last.shot.id !== shot?.id) return;
    last.keep = true;
    this.world.caught(this.slices());
    this.finish(shot, "done");
  }

  /** The last sound that was kept is struck again. */
  redo(): void {
    const last = this.caught.findLast((c) => c.keep);
    if (!last) return;
    last.keep = false;
    this.world.caught(this.slices());
    const shots = this.store
      .getState()
      .shots.map((s) => (s.id === last.shot.id ? { ...s, state: "open" as const } : s));
    this.store.setState({ shots, attempt: 0 });
    this.world.changed(shots);
    this.announce(shots.find((s) => s.id === last.shot.id) ?? null);
  }

  /**
   * Ends the session: every sound that came in as a slice that knows its note, strength and repeat. Where it turned out after all
   * that a part of a sound was lost, its entry is open again.
   */
  stop(): Slice[] {
    this.follower = null;
    const lost = this.caught.filter((c) => c.keep && c.verdict.problems.length === 0 && this.broken(c.captured));
    if (lost.length > 0) {
      for (const c of lost) c.keep = false;
      const ids = new Set(lost.map((c) => c.shot.id));
      const shots = this.store.getState().shots.map((s) => (ids.has(s.id) ? { ...s, state: "open" as const } : s));
      this.store.setState({ shots });
      this.world.changed(shots);
    }
    this.store.setState({ running: false });
    return this.slices();
  }

  private slices(): Slice[] {
    return this.caught.map(({ shot, captured, verdict, keep }) =>
      newSlice({
        id: `s${captured.onset}`,
        start: Math.max(captured.start, captured.onset - Math.round(this.rate * 0.003)),
        end: captured.end,
        onset: captured.onset,
        pitch: verdict.pitch,
        confidence: verdict.confidence,
        peak: verdict.peak,
        keep,
        doubt: keep ? "" : (verdict.problems[0] ?? (this.broken(captured) ? LOST : "redone")).slice(0, 200),
        note: keep ? shot.note : null,
        strength: shot.strength,
        repeat: shot.repeat,
        edited: true,
      }),
    );
  }
}
