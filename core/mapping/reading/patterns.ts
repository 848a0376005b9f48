import { applyReading } from "./apply-reading";
import { type Column, columnOf } from "./columns";
import { noteChoice, type Sounds } from "./judge";
import { MANNERS, type Role, tokenOf } from "./meanings";
import { parsePattern } from "./pattern";
import { PIECE_OPTIONS, takeApart } from "./pieces";
import type { NamedSound, Reading } from "./reading";
import { readingOf } from "./reading-of";

/** The reading of names that are made by a pattern; a sentence that says what is wrong with it where it can't be read, or none is made so. */
export function readByPattern(text: string, sounds: readonly NamedSound[]): Reading | string {
  const pattern = parsePattern(text);
  if (typeof pattern === "string") return pattern;
  const roles = pattern.parts.flatMap((p) => (p.kind === "role" ? [p.role] : []));
  const paths = sounds.map((s) => s.path);
  const heard: Sounds = { pitches: sounds.map((s) => s.pitch), loudness: sounds.map((s) => s.loudness) };
  let best: Reading | null = null;
  for (const options of PIECE_OPTIONS) {
    const names = takeApart(paths, options);
    const columns: Column[] = [];
    for (const role of roles) {
      // Notes are best told by what is heard, as B is one note here and another there.
      const worth = (c: Column): number =>
        role === "note" ? noteChoice(c, heard).worth : c.coverage * (0.3 + c.likely);
      const [told] = MANNERS[role]
        .flatMap((manner) =>
          [false, true].map((german) => columnOf(names, role, manner, { by: "pattern", pattern }, german)),
        )
        .filter((c) => c.coverage > 0)
        .sort((a, b) => worth(b) - worth(a));
      if (told) columns.push(told);
    }
    if (columns.length === 0) continue;
    const reading = readingOf(columns, options, sounds);
    if (!best || reading.score > best.score) best = reading;
  }
  return best ?? "no name is made so";
}

/** Text that all of some have in common at the beginning and at the end, and whatever is between. */
function inCommon(texts: readonly string[]): string {
  const [first = ""] = texts;
  if (texts.every((t) => t === first)) return first;
  let before = 0;
  while (before < first.length && texts.every((t) => t[before] === first[before])) before++;
  let after = 0;
  const least = Math.min(...texts.map((t) => t.length)) - before;
  while (after < least && texts.every((t) => t.at(-1 - after) === first.at(-1 - after))) after++;
  return `${first.slice(0, before)}*${after > 0 ? first.slice(-after) : ""}`;
}

/** The pattern by which most names of a reading are made; empty where nothing in them means anything. */
export function patternOf(reading: Reading, sounds: readonly NamedSound[]): string {
  const { pieces } = applyReading(reading, sounds);
  const shapes = new Map<string, { roles: Role[]; gaps: string[][] }>();
  sounds.forEach(({ path }, n) => {
    const told = (pieces[n] ?? []).filter((p) => p.role !== null);
    const [start] = told;
    if (!start) return;
    // Folders belong to it only where they say something.
    const name = path.lastIndexOf("/") + 1;
    let at = start.start < name ? path.lastIndexOf("/", start.start) + 1 : name;
    const roles: Role[] = [];
    const gaps: string[] = [];
    for (const piece of told) {
      // What takes several pieces stands there once.
      if (roles.at(-1) !== piece.role) {
        gaps.push(path.slice(at, piece.start));
        roles.push(piece.role as Role);
      }
      at = piece.end;
    }
    gaps.push(path.slice(at));
    const shape = shapes.get(roles.join()) ?? { roles, gaps: [] };
    shape.gaps.push(gaps);
    shapes.set(roles.join(), shape);
  });
  const [usual] = [...shapes.values()].sort((a, b) => b.gaps.length - a.gaps.length);
  if (!usual) return "";
  const gap = (g: number): string => inCommon(usual.gaps.map((all) => all[g] ?? ""));
  return usual.roles.map((role, r) => `${gap(r)}${tokenOf(role)}`).join("") + gap(usual.roles.length);
}
