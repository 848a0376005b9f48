import { type AudioCalls, Cancelled, furtherAudioCalls } from "../workers/audio-worker";
import { beginJob } from "./notices";

/** Most workers that share one job: more would only wait for the disk. */
const MOST = 4;
/** Things that a worker has in hand at once: while one is stored it works at the next. */
const IN_HAND = 12;

/** Room for so much at once. What is larger than all of it goes by itself. */
class Room {
  private taken = 0;
  private readonly queue: (() => void)[] = [];

  constructor(private readonly size: number) {}

  async take(weight: number): Promise<void> {
    while (this.taken > 0 && this.taken + weight > this.size)
      await new Promise<void>((resolve) => this.queue.push(resolve));
    this.taken += weight;
  }

  give(weight: number): void {
    this.taken -= weight;
    for (const go of this.queue.splice(0)) go();
  }
}

/**
 * Does the same for many things in several workers at once, with progress. `weigh` says how much of a worker's room a thing takes, as a share of 1: those
 * that are light are several at once in its hands. Results are in the order of what was given; where it was cancelled, those that
 * weren't done are missing.
 */
export async function withWorkers<A, B>(
  label: string,
  things: readonly A[],
  work: (worker: AudioCalls, thing: A) => Promise<B>,
  weigh: (thing: A) => number = () => 1,
): Promise<{ readonly results: readonly (B | undefined)[]; readonly cancelled: boolean }> {
  const results: (B | undefined)[] = new Array(things.length).fill(undefined);
  // The page itself has little to do meanwhile: of two cores both may work.
  const cores = Math.max(2, (globalThis.navigator?.hardwareConcurrency ?? 2) - 1);
  const count = Math.max(1, Math.min(MOST, cores, Math.ceil(things.length / 4)));
  const workers = Array.from({ length: count }, furtherAudioCalls);
  let cancelled = false;
  const job = beginJob(label, () => {
    cancelled = true;
    for (const worker of workers) worker.end();
  });
  let next = 0;
  let done = 0;
  const weightOf = (at: number) => Math.min(1, Math.max(1 / IN_HAND, weigh(things[at] as A)));
  const run = async (calls: AudioCalls, room: Room): Promise<void> => {
    while (!cancelled && next < things.length) {
      // There must be room for what would be next; by then it may be another's, and it goes on with the one after that.
      const weight = weightOf(next);
      await room.take(weight);
      try {
        if (cancelled || next >= things.length) return;
        const at = next++;
        results[at] = await work(calls, things[at] as A);
      } catch (error) {
        if (!(error instanceof Cancelled)) throw error;
        cancelled = true;
      } finally {
        room.give(weight);
      }
      job.show(++done / things.length);
    }
  };
  try {
    await Promise.all(
      workers.flatMap((w) => {
        const room = new Room(1);
        const calls = w.of(null);
        return Array.from({ length: IN_HAND }, () => run(calls, room));
      }),
    );
  } finally {
    for (const worker of workers) worker.end();
    job.end();
  }
  return { results, cancelled };
}
