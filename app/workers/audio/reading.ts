import {
  type AppliedReading,
  applyReading,
  type EvidentSound,
  fixRole,
  patternOf,
  type Reading,
  type Role,
  readByPattern,
  readNames,
  type Weighed,
  weigh,
} from "../../../core/mapping";

/** What one reading of the names, the files and the sounds say together. */
export interface Evidence {
  readonly weighed: readonly Weighed[];
  readonly pieces: AppliedReading["pieces"];
  /** The pattern by which most names are made. */
  readonly pattern: string;
}

const evidenceOf = (reading: Reading | null, sounds: readonly EvidentSound[]): Evidence => ({
  weighed: weigh(sounds, reading),
  pieces: reading ? applyReading(reading, sounds).pieces : sounds.map(() => []),
  pattern: reading ? patternOf(reading, sounds) : "",
});

/** Reads the names of samples. */
export const reading = {
  /** The ways in which names can be read, best first. */
  readNames: (sounds: readonly EvidentSound[]): Reading[] => readNames(sounds),

  /** What names say in one reading, weighed against all else; null: they say nothing. */
  evidence: evidenceOf,

  /** What names say that are made by a pattern; a sentence where it can't be read, or none is. */
  byPattern(text: string, sounds: readonly EvidentSound[]): { reading: Reading; evidence: Evidence } | string {
    const read = readByPattern(text, sounds);
    return typeof read === "string" ? read : { reading: read, evidence: evidenceOf(read, sounds) };
  },

  /** The same with one piece of a name taken for something else; null where it can't be that. */
  fixRole(
    before: Reading,
    sounds: readonly EvidentSound[],
    name: number,
    piece: number,
    role: Role | null,
  ): { reading: Reading; evidence: Evidence } | null {
    const fixed = fixRole(before, sounds, name, piece, role);
    return fixed && { reading: fixed, evidence: evidenceOf(fixed, sounds) };
  },
};
