/** Asks for a song of one's own; what reads it comes when it is wanted. */
export const pickSong = async (): Promise<void> => (await import("../state/songs")).pickSong();
