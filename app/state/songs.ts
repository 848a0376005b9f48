import { FormatError, readMidi } from "../../core/formats";
import { HIGHEST_TEMPO, LOWEST_TEMPO, setSong } from "../../core/instrument";
import { reasonOf } from "../basis/reason-of";
import { tell } from "./notices";
import { ownSong } from "./own-song";
import { OWN_SONG } from "./phrase-ids";
import { pickFiles } from "./pick-files";
import { session } from "./session";
import { setView } from "./view";

export const isSong = (file: File): boolean => /\.(mid|midi|smf)$/i.test(file.name);

/** Reads a Standard MIDI File, to be played as the phrase in its own tempo until another is set. */
export async function openSong(file: File): Promise<void> {
  try {
    const song = readMidi(new Uint8Array(await file.arrayBuffer()));
    if (song.events.length === 0) throw new FormatError("no-audio", 0, "there are no notes in it");
    ownSong.setState({ own: { name: file.name.replace(/\.\w+$/, "").slice(0, 60) || "song", song } });
    setView({ phrase: OWN_SONG });
    const tempo = Math.round(Math.min(HIGHEST_TEMPO, Math.max(LOWEST_TEMPO, song.tempo)) * 100) / 100;
    if (session.instrument && session.instrument.song.tempo !== tempo) session.commit(setSong({ tempo }));
    for (const warning of song.warnings) tell("warning", `${file.name}: ${warning}`);
    tell("good", `${file.name} is the phrase now: Space plays it.`);
  } catch (error) {
    const why = reasonOf(error);
    tell("error", `${file.name} was not opened: ${why}.`);
  }
}

/** Asks for a song. */
export async function pickSong(): Promise<void> {
  const [file] = await pickFiles({ accept: ".mid,.midi,audio/midi" });
  if (file) await openSong(file);
}
