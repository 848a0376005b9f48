import { foundBy } from "../../../core/params";

/** How well a kind of unit goes with what somebody types, 0 to 1: by its name, by what it does, or by an everyday word for that. */
export function rankKind(label: string, help: string, typed: string): number {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const within = (text: string) => words.every((word) => text.toLowerCase().includes(word));
  if (within(label)) return label.toLowerCase().startsWith(words[0] ?? "") ? 1 : 0.9;
  if (within(`${label} ${help}`)) return 0.5;
  return foundBy(`${label} ${help}`, typed) ? 0.1 : 0;
}
