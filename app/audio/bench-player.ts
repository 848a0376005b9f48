import type { Shot } from "../../core/instrument";
import type { BenchMic } from "./bench-mic";

/** Mistakes that the somebody at the bench mic makes the first time at some entries, as people do. */
type Mistake = "clipped" | "missed" | "wrong";
const MISTAKES: Readonly<Record<number, Mistake>> = { 2: "clipped", 4: "wrong", 5: "missed" };

/** Which mistake is made at an entry, by its place in the list; null for none. */
export const mistakeAt = (index: number, attempt: number): Mistake | null =>
  attempt === 0 ? (MISTAKES[index] ?? null) : null;

/** What the bench mic plays for an entry; a missed one comes only after a while. */
export function strokeFor(shot: Shot, index: number, attempt: number): { note: number; level: number; after: number } {
  const mistake = mistakeAt(index, attempt);
  // Things without a note are struck as they come.
  const note = shot.note ?? 45 + ((shot.name.length * 7) % 30);
  const share = shot.strengths > 1 ? (shot.strength - 1) / (shot.strengths - 1) : 1;
  const level = 0.12 * (0.6 / 0.12) ** share;
  switch (mistake) {
    case "clipped":
      return { note, level: 2.5, after: 0.25 };
    case "wrong":
      return { note: note + 2, level, after: 0.25 };
    case "missed":
      return { note, level, after: 2 };
    case null:
      return { note, level: level * (0.92 + 0.04 * (shot.repeat % 3)), after: 0.25 };
  }
}

/** Has the bench mic answer a session: one stroke for each time that an entry is waited for. */
export function playAlong(
  bench: BenchMic,
  session: {
    subscribe: (listener: (now: BenchState, before: BenchState) => void) => () => void;
    getState: () => BenchState;
  },
): () => void {
  bench.hush();
  let asked = "";
  const answer = (now: BenchState) => {
    if (!now.running || !now.shot || now.state !== "waiting") return;
    const index = now.shots.findIndex((s) => s.id === now.shot?.id);
    const key = `${now.shot.id}/${now.attempt}/${now.shots.filter((s) => s.state === "done").length}`;
    if (key === asked) return;
    asked = key;
    bench.strike(strokeFor(now.shot, index, now.attempt));
  };
  answer(session.getState());
  return session.subscribe(answer);
}

interface BenchState {
  readonly running: boolean;
  readonly shots: readonly Shot[];
  readonly shot: Shot | null;
  readonly state: string;
  readonly attempt: number;
}
