import type { Stroke } from "../../core/mapping";
import { engine } from "../state/engine";
import { tell } from "../state/notices";
import { playedBy } from "../state/played";
import { session } from "../state/session";
import { useView } from "../state/view";

/** Plays the chosen phrase in a loop, or stops it. */
export function togglePhrase(): void {
  if (engine.store.getState().playing) {
    engine.stopPhrase();
    return;
  }
  playPhrase();
}

function playPhrase(): void {
  const { instrument } = session;
  const played = instrument && playedBy(instrument, useView.getState().phrase);
  if (played) void engine.playPhrase(played.events, played.seconds);
  else tell("doubt", "There is nothing to play yet: no key has a sound.");
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
  if (engine.store.getState().playing) playPhrase();
};
useView.subscribe((view, before) => {
  if (view.phrase !== before.phrase) playAgain();
});
session.store.subscribe((state, before) => {
  const [now, was] = [state.history?.present, before.history?.present];
  if (now && was && now.id === was.id && now.song !== was.song) playAgain();
});
