import { PHRASES, phraseEvents, phraseFor } from "../../core/engine";
import type { Instrument } from "../../core/instrument";
import { everyStrength, soundingKeys } from "../../core/mapping";
import type { Played } from "../audio/bounce-phrase";
import { slicesPhrase } from "./beats";
import { ownSong } from "./own-song";
import { EVERY_KEY, OWN_SONG, SLICES } from "./phrase-ids";

/** Seconds from one stroke to the next where every key is run through, and how long each sounds. */
const RUN = { step: 0.32, length: 0.26 } as const;

/** What a phrase plays through an instrument; null where there is nothing. */
export function playedBy(instrument: Instrument, id: string): Played | null {
  const { tempo } = instrument.song;
  if (id === OWN_SONG) {
    const song = ownSong.getState().own?.song;
    if (!song) return null;
    // Its own tempo changes stay; the whole goes faster or slower.
    const by = song.tempo / tempo;
    return { events: song.events.map((e) => ({ ...e, seconds: e.seconds * by })), seconds: (song.seconds + 0.5) * by };
  }
  if (id === EVERY_KEY) {
    const strokes = everyStrength(instrument);
    const events = strokes.flatMap(({ key, velocity }, i) => [
      { seconds: i * RUN.step, status: 0x90, data1: key, data2: velocity },
      { seconds: i * RUN.step + RUN.length, status: 0x80, data1: key, data2: 0 },
    ]);
    return strokes.length > 0 ? { events, seconds: strokes.length * RUN.step } : null;
  }
  const phrase = id === SLICES ? slicesPhrase(instrument) : PHRASES.find((p) => p.id === id);
  if (!phrase) return null;
  const seconds = (phrase.beats * 60) / tempo;
  return { events: phraseEvents(phraseFor(phrase, soundingKeys(instrument)), tempo), seconds };
}
