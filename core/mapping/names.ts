import { nameOfNote } from "../audio";

/** What is known of a sound that is to be named. */
export interface NameFacts {
  readonly take: string;
  /** Its place among those that are named together, from 1. */
  readonly number: number;
  readonly note: number | null;
  readonly cents: number | null;
  readonly strength: number | null;
  readonly repeat: number | null;
  /** Peak in dBFS and length in seconds. */
  readonly peak: number;
  readonly length: number;
}

/** The placeholders of a name pattern with what they stand for; `{number:3}` writes at least three digits. */
export const PLACEHOLDERS: readonly { readonly id: string; readonly help: string }[] = [
  { id: "take", help: "the take's name" },
  { id: "number", help: "its number among these, from 1" },
  { id: "note", help: "its root note, such as D#4" },
  { id: "midi", help: "its root note as a number, 0–127" },
  { id: "cents", help: "how far it is off that note, such as +12" },
  { id: "layer", help: "velocity layer, 1 the softest" },
  { id: "repeat", help: "which repeat it is, from 1" },
  { id: "peak", help: "its peak in decibels" },
  { id: "length", help: "its length in milliseconds" },
];

/** Patterns to begin with. */
export const NAME_PRESETS: readonly string[] = [
  "{take}-{note}-{number:2}",
  "{take}_{midi:3}_v{layer}_r{repeat}",
  "{note} {layer} {repeat} {take}",
  "{take} {number:3}",
];

const MISSING = "\u0000";

function knownAs(id: string, facts: NameFacts): string | number | null | undefined {
  switch (id) {
    case "take":
      return withoutExtension(facts.take);
    case "number":
      return facts.number;
    case "note":
      return facts.note === null ? null : nameOfNote(facts.note);
    case "midi":
      return facts.note;
    case "cents":
      return facts.cents === null ? null : `${facts.cents < 0 ? "-" : "+"}${Math.round(Math.abs(facts.cents))}`;
    case "layer":
    // So it was called in patterns of before.
    case "strength":
      return facts.strength;
    case "repeat":
      return facts.repeat;
    case "peak":
      return `${Math.round(facts.peak)}dB`;
    case "length":
      return `${Math.round(facts.length * 1000)}ms`;
    default:
      return undefined;
  }
}

/**
 * A name by a pattern: `{placeholder}` or `{placeholder:digits}`. What isn't known is left out together with one separator
 * beside it; a placeholder that doesn't exist stays as it was typed.
 */
export function nameByPattern(pattern: string, facts: NameFacts): string {
  const filled = pattern.replace(/\{(\w+)(?::(\d))?\}/g, (whole, id: string, digits?: string) => {
    const value = knownAs(id, facts);
    if (value === undefined) return whole;
    if (value === null) return MISSING;
    return typeof value === "number" ? String(value).padStart(Number(digits ?? 1), "0") : value;
  });
  return filled
    .replace(new RegExp(`[-_. ]?[A-Za-z]?${MISSING}`, "g"), "")
    .replace(/^[-_. ]+|[-_ ]+$/g, "")
    .trim();
}

/** A name without the ending of a sound file; any other dot, as in `session 1.25`, belongs to the name. */
export const withoutExtension = (name: string): string =>
  name.replace(/\.(wave?|aif[fc]?|flac|mp[34]|og[ga]|opus|m4a|aac|webm|caf)$/i, "");

/** Characters that some system or another doesn't allow in a file's name. */
// biome-ignore lint/suspicious/noControlCharactersInRegex: those are the ones
const ILLEGAL = /[<>:"/\\|?*\u0000-\u001f]/;

/** Names that some system keeps for its devices, whatever comes after a dot. */
const KEPT = /^(con|prn|aux|nul|com\d|lpt\d)(\..*)?$/i;

/** A proposed name, and what is wrong with it; empty where nothing is. */
export interface ProposedName {
  readonly name: string;
  readonly problem: "" | "empty" | "illegal" | "clash" | "long";
}

/** The names of several sounds by one pattern, each with what is wrong with it. Case makes no difference between two names. */
export function nameAll(pattern: string, facts: readonly NameFacts[]): ProposedName[] {
  const names = facts.map((f) => nameByPattern(pattern, f));
  const counts = new Map<string, number>();
  for (const name of names) counts.set(name.toLowerCase(), (counts.get(name.toLowerCase()) ?? 0) + 1);
  return names.map((name) => {
    if (name === "") return { name, problem: "empty" };
    if (ILLEGAL.test(name) || /[. ]$/.test(name) || KEPT.test(name)) return { name, problem: "illegal" };
    if (name.length > 120) return { name, problem: "long" };
    return { name, problem: (counts.get(name.toLowerCase()) ?? 0) > 1 ? "clash" : "" };
  });
}

/** Names that can be used whatever the pattern: illegal characters become dashes, the second of a kind gets its number. */
export function usableNames(pattern: string, facts: readonly NameFacts[]): string[] {
  const taken = new Set<string>();
  return nameAll(pattern, facts).map(({ name }, i) => {
    const plain =
      name
        .replace(new RegExp(ILLEGAL, "g"), "-")
        .replace(/[. ]+$/, "")
        .replace(KEPT, "$1-sound$2")
        .slice(0, 120) || `sound-${facts[i]?.number ?? i + 1}`;
    let free = plain;
    for (let n = 2; taken.has(free.toLowerCase()); n++) free = `${plain}-${n}`;
    taken.add(free.toLowerCase());
    return free;
  });
}
