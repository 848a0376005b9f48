import {
  type AppliedReading,
  applyReading,
  type EvidentSound,
  fixRole,
  type Reading,
  type Role,
  readNames,
  type Weighed,
  weigh,
} from "../../../core/mapping";

/** What one reading of the names, the files and the sounds say together. */
export interface Evidence {
  readonly weighed: readonly Weighed[];
  readonly pieces: AppliedReading["pieces"];
}

const evidenceOf = (reading: Reading | null, sounds: readonly EvidentSound[]): Evidence => ({
  weighed: weigh(sounds, reading),
  pieces: reading ? applyReading(reading, sounds).pieces : sounds.map(() => []),
});

/** Reads the names of samples. */
export const reading = {
  /** The ways in which names can be read, best first. */
  readNames: (sounds: readonly EvidentSound[]): Reading[] => readNames(sounds),

  /** What names say in one reading, weighed against all else; null: they say nothing. */
  evidence: evidenceOf,

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
