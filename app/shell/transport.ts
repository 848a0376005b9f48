import type { Zone } from "../../core/instrument";
import type { Stroke } from "../../core/mapping";
import { engine } from "../state/engine";
import { tell } from "../state/notices";
import { session } from "../state/session";
import { useView } from "../state/view";

/** Plays the chosen phrase in a loop, or stops it. */
export function togglePhrase(): void {
  if (engine.store.getState().playing) {
    asked++;
    engine.stopPhrase();
    return;
  }
  void playPhrase();
}

/** Counts who asked to play or to stop: what plays a phrase is fetched first, and whoever asked last is right. */
let asked = 0;

async function playPhrase(): Promise<void> {
  const turn = ++asked;
  const { playedBy } = await import("../state/played");
  const { instrument } = session;
  if (turn !== asked) return;
  const played = instrument && playedBy(instrument, useView.getState().phrase);
  if (played) void engine.playPhrase(played.events, played.seconds);
  else tell("warning", "There is nothing to play yet: no key has a sound.");
}

/** Strikes the lowest and the highest key of some zones, at their softest and hardest. */
export async function strikeEnds(zones: readonly Zone[]): Promise<void> {
  const { bothEnds } = await import("./both-ends");
  strike(bothEnds(zones));
}

/** The key that is struck now, and what lets it go. */
let struck: { readonly key: number; readonly timer: ReturnType<typeof setTimeout> } | null = null;

/** Strikes keys one after the other, each for a moment; what was struck before ends. */
export function strike(strokes: readonly Stroke[]): void {
  if (struck) {
    clearTimeout(struck.timer);
    engine.noteOff(struck.key);
  }
  const [first, ...rest] = strokes;
  struck = null;
  if (!first) return;
  engine.noteOn(first.key, first.velocity);
  struck = { key: first.key, timer: setTimeout(() => strike(rest), 380) };
}

const playAgain = () => {
  if (engine.store.getState().playing) void playPhrase();
};
useView.subscribe((view, before) => {
  if (view.phrase !== before.phrase) playAgain();
});
session.store.subscribe((state, before) => {
  const [now, was] = [state.history?.present, before.history?.present];
  if (now && was && now.id === was.id && now.song !== was.song) playAgain();
});
