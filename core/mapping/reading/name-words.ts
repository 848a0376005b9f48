import { LABELS, microphoneOfWord, strengthOfWord, triggerOfWord } from "./lexicon";
import { PIECE_OPTIONS, type Piece, piecesOf } from "./pieces";
import type { ReadPiece } from "./reading";

/** A sound's path, and what a reading took of its name. */
export interface NamedPath {
  readonly path: string;
  readonly microphone: string | null;
  readonly trigger: "noteOn" | "noteOff" | null;
}

/** Words that say how hard as often as they say which: a low tom, a hi hat. They stay in the name. */
const WHICH = new Set([
  "hi",
  "high",
  "highest",
  "lo",
  "low",
  "lowest",
  "mid",
  "middle",
  "medium",
  "med",
  "medio",
  "mono",
]);
const ALL_LABELS = [LABELS.strength, LABELS.repeat, LABELS.note, LABELS.octave, LABELS.microphone, LABELS.nothing];

/** The pieces of a path, taken apart in the most usual way. */
export const plainPieces = (path: string): Piece[] => PIECE_OPTIONS.slice(0, 1).flatMap((o) => piecesOf(path, o));

/** Whether a piece is part of what a sound is called. */
function isName(piece: Piece, next: Piece | undefined, { microphone, trigger }: NamedPath): boolean {
  if (piece.kind === "number" || (piece.note?.octave ?? null) !== null || piece.text.length < 2) return false;
  const { word } = piece;
  const labels = next?.kind === "number" && next.word === word && ALL_LABELS.some((set) => set.has(word));
  if (labels || (strengthOfWord(word) !== null && !WHICH.has(word))) return false;
  if (microphone !== null && microphoneOfWord(word) === microphone) return false;
  return !(trigger === "noteOff" && triggerOfWord(word) === "noteOff");
}

/**
 * The words by which one part of a path (0: the name itself, 1: its folder) calls a sound: all that say neither how hard, which repeat, which microphone nor
 * when, and of which nothing else was made (`taken`). Several words are one name.
 */
export function wordsOf(name: NamedPath, part: number, taken: readonly ReadPiece[] = []): string {
  const own = plainPieces(name.path).filter((p) => p.part === part);
  const isTaken = (piece: Piece): boolean =>
    taken.some((t) => t.role !== null && t.role !== "group" && t.start < piece.end && piece.start < t.end);
  return own
    .filter((piece, i) => isName(piece, own[i + 1], name) && !isTaken(piece))
    .map((p) => p.text)
    .join(" ");
}
