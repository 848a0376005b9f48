import type { Column } from "./columns";
import type { Role } from "./meanings";
import type { PieceOptions } from "./pieces";

/** A sound with the path of its file (`/` parts folders, without an ending) and what was measured of it. */
export interface NamedSound {
  readonly path: string;
  /** MIDI note with fraction; null where no pitch is sure. */
  readonly pitch: number | null;
  /** In LUFS. */
  readonly loudness: number;
}

/** What a name says of its sound; null where it says nothing. */
export interface NameReading {
  readonly note: number | null;
  /** Comparable among the names of one reading: the harder, the more. */
  readonly strength: number | null;
  /** Velocities that the name gives itself. */
  readonly velocities: { readonly low: number | null; readonly high: number } | null;
  readonly repeat: number | null;
  readonly microphone: string | null;
  readonly trigger: "noteOn" | "noteOff" | null;
  readonly group: string | null;
}

/** A piece of a name with what it was taken for; null: it means nothing. */
export interface ReadPiece {
  readonly start: number;
  readonly end: number;
  readonly role: Role | null;
}

/** One way in which all names of a set can be read. */
export interface Reading {
  readonly columns: Readonly<Partial<Record<Role, Column>>>;
  readonly options: PieceOptions;
  /** Semitones between what notes are called and what they are here (C4 is 60): −12, 0, 12 …; 0 where notes are numbers or frequencies. */
  readonly shift: number;
  /** Whether the least number is the hardest strength. */
  readonly falling: boolean;
  /** Of the sounds whose pitch is known, the share that are as their names say; null where there are none. */
  readonly agreement: number | null;
  /** Share of the pairs of strengths of which the harder is louder, less the share where it is softer; null where no strength is told. */
  readonly levels: number | null;
  readonly score: number;
}
