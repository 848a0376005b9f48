/** Takes one note that is to sound: `delay` and `length` in seconds; a length of 0 means as long as the played key is held. */
export type EmitNote = (key: number, velocity: number, delay: number, length: number) => void;

/** A script that sees notes before zones are chosen; see core/rules for the real one. */
export interface NoteRules {
  /** Asks what should sound for a key that went down. False: the script failed, the note sounds as played. */
  start(key: number, velocity: number, time: number, emit: EmitNote): boolean;
  /** Tells that a key went up; notes may be added. False: the script failed. */
  end(key: number, time: number, emit: EmitNote): boolean;
}
