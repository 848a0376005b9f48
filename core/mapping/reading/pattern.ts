import { MANNERS, meaningAt, ROLES, type Role, tokenOf } from "./meanings";
import type { Piece } from "./pieces";

/** A part of a pattern: text as it stands, whatever there is, or a piece that means something. */
export type PatternPart =
  | { readonly kind: "text"; readonly text: string }
  | { readonly kind: "any" }
  | { readonly kind: "role"; readonly role: Role };

/** How names are made: `take{repeat} - {layer} - {note}`; `*` stands for anything. */
export interface NamePattern {
  readonly text: string;
  readonly parts: readonly PatternPart[];
  /** Whether folders belong to it; else it is about the name alone. */
  readonly folders: boolean;
}

/** Most parts of a pattern. */
const MOST = 40;

/** The role of a word in braces; `strength` is what layers were called before version 14. */
const roleOf = (word: string): Role | null =>
  ROLES.find((role) => role === word || tokenOf(role) === `{${word}}`) ?? null;

/** Reads a pattern; a sentence that says what is wrong where it is none. */
export function parsePattern(text: string): NamePattern | string {
  const parts: PatternPart[] = [];
  const known = new Set<Role>();
  for (const [piece] of text.trim().matchAll(/\{[^{}]*\}|\*+|[^*{}]+|[{}]/g)) {
    if (piece.startsWith("*")) parts.push({ kind: "any" });
    else if (!piece.startsWith("{") && piece !== "}") parts.push({ kind: "text", text: piece });
    else {
      const word = piece.slice(1, -1).trim().toLowerCase();
      const role = roleOf(word);
      if (!role) return `${piece} means nothing: there are ${ROLES.map(tokenOf).join(", ")} and *`;
      if (known.has(role)) return `${tokenOf(role)} stands there twice`;
      known.add(role);
      parts.push({ kind: "role", role });
    }
  }
  if (known.size === 0) return `nothing in it means anything: it needs one of ${ROLES.map(tokenOf).join(", ")}`;
  if (parts.length > MOST) return `it has ${parts.length} parts; up to ${MOST} can be read`;
  return { text: text.trim(), parts, folders: text.includes("/") };
}

/** Where what a piece says of a role may end, the furthest first; nothing where it says nothing of it. */
function endsOf(pieces: readonly Piece[], at: number, role: Role): number[] {
  const ends = new Set<number>();
  for (const manner of MANNERS[role])
    for (const german of [false, true]) {
      const meaning = meaningAt(pieces, at, role, manner, german);
      const last = meaning && pieces[at + meaning.pieces - 1];
      if (last) ends.add(last.end);
    }
  return [...ends].sort((a, b) => b - a);
}

/**
 * Where the pieces stand that a pattern asks for, as indices by their roles; null where a name isn't made so. Upper and lower case are alike. Of
 * several ways the one is taken in which `*` is shortest, from the left. Takes time in proportion to the name's length and the number of parts.
 */
export function matchPattern(
  { parts, folders }: NamePattern,
  path: string,
  pieces: readonly Piece[],
): ReadonlyMap<Role, number> | null {
  const text = path.toLowerCase();
  const first = folders ? 0 : text.lastIndexOf("/") + 1;
  const length = text.length;
  const begins = new Map(pieces.map((p, i) => [p.start, i]));
  const endings = new Map<string, number[]>();
  const endingsAt = (at: number, role: Role): readonly number[] => {
    const i = begins.get(at);
    if (i === undefined) return [];
    const key = `${at} ${role}`;
    const known = endings.get(key) ?? endsOf(pieces, i, role);
    endings.set(key, known);
    return known;
  };
  // From the back: whether the parts from one on can make the name from a place on.
  const can = Array.from({ length: parts.length + 1 }, () => new Uint8Array(length + 1));
  (can[parts.length] as Uint8Array)[length] = 1;
  for (let p = parts.length - 1; p >= 0; p--) {
    const part = parts[p] as PatternPart;
    const [here, next] = [can[p] as Uint8Array, can[p + 1] as Uint8Array];
    if (part.kind === "text") {
      const wanted = part.text.toLowerCase();
      for (let at = first; at + wanted.length <= length; at++)
        if (next[at + wanted.length] && text.startsWith(wanted, at)) here[at] = 1;
      continue;
    }
    // Whether what follows can begin at any later place.
    let later = 0;
    for (let at = length; at >= first; at--) {
      if (next[at]) later = 1;
      if (part.kind === "any") here[at] = later;
      else if (endingsAt(at, part.role).some((end) => next[end])) here[at] = 1;
    }
  }
  // A pattern with folders is about the last of them.
  let at = first;
  if (folders) while (at <= length && !(can[0]?.[at] && (at === 0 || text[at - 1] === "/"))) at++;
  if (!can[0]?.[at]) return null;
  const found = new Map<Role, number>();
  for (const [p, part] of parts.entries()) {
    const next = can[p + 1] as Uint8Array;
    if (part.kind === "text") {
      at += part.text.length;
      continue;
    }
    if (part.kind === "role") {
      found.set(part.role, begins.get(at) as number);
      at = endingsAt(at, part.role).find((end) => next[end]) ?? at;
      continue;
    }
    while (!next[at]) at++;
  }
  return found;
}
