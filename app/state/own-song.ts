import { createStore } from "zustand/vanilla";
import type { Song } from "../../core/formats";

/** A song of one's own that can be played in place of a phrase. */
interface OwnSong {
  readonly name: string;
  readonly song: Song;
}

export const ownSong = createStore<{ readonly own: OwnSong | null }>(() => ({ own: null }));
