import { createStore } from "zustand/vanilla";

/** Counts how often audio was found that was missing before, for whoever could not read it then. */
export const foundAudio = createStore<{ readonly times: number }>(() => ({ times: 0 }));
export const tellFoundAudio = (): void => foundAudio.setState(({ times }) => ({ times: times + 1 }));
