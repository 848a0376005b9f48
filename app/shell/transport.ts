import { PHRASES, phraseEvents, phraseFor } from "../../core/engine";
import { mappedKeys } from "../../core/mapping";
import { engine } from "../state/engine";
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
  const { phrase: id, tempo } = useView.getState();
  const phrase = PHRASES.find((p) => p.id === id);
  const { instrument } = session;
  if (!phrase || !instrument) return;
  const events = phraseEvents(phraseFor(phrase, mappedKeys(instrument)), tempo);
  void engine.playPhrase(events, (phrase.beats * 60) / tempo);
}

engine.setTempo(useView.getState().tempo);
useView.subscribe((view, before) => {
  if (view.tempo !== before.tempo) engine.setTempo(view.tempo);
  if ((view.phrase !== before.phrase || view.tempo !== before.tempo) && engine.store.getState().playing) playPhrase();
});
