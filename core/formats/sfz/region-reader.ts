import { parseNote } from "../../audio";
import type { SfzRegion } from "./program";
import type { SfzOpcode } from "./text";

/** What a controller adds to something, as the file says it. */
export interface Moved {
  readonly controller: number;
  readonly amount: number;
  /** Number of a curve; null for a straight line. */
  readonly curve: number | null;
  /** Smoothing in milliseconds; null where none is given. */
  readonly smooth: number | null;
}

const MOVE = /^(.+)_(oncc|curvecc|smoothcc)(\d{1,3})$/;

/** A number as people write it, also with a comma; null for anything else. */
export function numberIn(text: string): number | null {
  const plain = /^[+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?$/i.exec(text.trim().replace(",", "."));
  const value = plain ? Number(plain[0]) : Number.NaN;
  return Number.isFinite(value) ? value : null;
}

/** Reads the settings of a region by name and type, and knows which nobody asked for. */
export class RegionReader {
  private readonly used = new Set<string>();
  private readonly moves = new Map<
    string,
    Map<number, { oncc?: SfzOpcode; curvecc?: SfzOpcode; smoothcc?: SfzOpcode }>
  >();
  /** Settings whose value couldn't be read, with what is wrong. */
  readonly wrong: { readonly opcode: SfzOpcode; readonly why: string }[] = [];

  constructor(readonly region: SfzRegion) {
    for (const opcode of region.opcodes.values()) {
      const found = /\d$/.test(opcode.name) ? MOVE.exec(opcode.name) : null;
      if (!found) continue;
      const [, base = "", part, controller = ""] = found;
      const all = this.moves.get(base) ?? new Map();
      const one = all.get(Number(controller)) ?? {};
      one[part as "oncc"] = opcode;
      all.set(Number(controller), one);
      this.moves.set(base, all);
    }
  }

  has(name: string): boolean {
    return this.region.opcodes.has(name);
  }

  /** The text of a setting; null where there is none. */
  text(name: string): string | null {
    const opcode = this.region.opcodes.get(name);
    if (!opcode) return null;
    this.used.add(name);
    return opcode.value;
  }

  /** A number kept within limits; null where there is none, or nothing that can be read. */
  number(name: string, min: number, max: number): number | null {
    const opcode = this.region.opcodes.get(name);
    if (!opcode) return null;
    const value = numberIn(opcode.value);
    if (value === null) {
      this.wrong.push({ opcode, why: `“${opcode.value.slice(0, 40)}” is no number` });
      return null;
    }
    this.used.add(name);
    return Math.min(max, Math.max(min, value));
  }

  /** A key as a number or a name, moved by the file's offset; −1 stands for none. */
  key(name: string): number | null {
    const opcode = this.region.opcodes.get(name);
    if (!opcode) return null;
    const number = numberIn(opcode.value);
    const note = number === null ? parseNote(opcode.value) : Math.round(number);
    if (note === null) {
      this.wrong.push({ opcode, why: `“${opcode.value.slice(0, 40)}” is no key` });
      return null;
    }
    this.used.add(name);
    return note < 0 ? -1 : Math.min(127, Math.max(0, note + this.region.offset));
  }

  /** One of some words; null where there is none of them. */
  word<const W extends string>(name: string, words: readonly W[]): W | null {
    const opcode = this.region.opcodes.get(name);
    if (!opcode) return null;
    const word = words.find((w) => w === opcode.value.toLowerCase());
    if (word === undefined) {
      this.wrong.push({ opcode, why: `“${opcode.value.slice(0, 40)}” is none of ${words.join(", ")}` });
      return null;
    }
    this.used.add(name);
    return word;
  }

  /** What controllers add to a setting. */
  movedBy(name: string): Moved[] {
    const moves: Moved[] = [];
    for (const [controller, { oncc, curvecc, smoothcc }] of this.moves.get(name) ?? []) {
      const amount = oncc ? numberIn(oncc.value) : null;
      if (!oncc || controller > 137) continue;
      if (amount === null) {
        this.wrong.push({ opcode: oncc, why: `“${oncc.value.slice(0, 40)}” is no number` });
        continue;
      }
      for (const opcode of [oncc, curvecc, smoothcc]) if (opcode) this.used.add(opcode.name);
      const curve = curvecc ? numberIn(curvecc.value) : null;
      const smooth = smoothcc ? numberIn(smoothcc.value) : null;
      moves.push({ controller, amount, curve: curve === null ? null : Math.round(curve), smooth });
    }
    return moves;
  }

  /** Marks settings as read that say nothing by themselves. */
  pass(...names: readonly string[]): void {
    for (const name of names) this.used.add(name);
  }

  /** Takes back that settings were read: they have no counterpart after all. */
  giveBack(...names: readonly string[]): void {
    for (const name of names) this.used.delete(name);
  }

  /** All names that begin so and end in a number, with it. */
  numbered(start: string): { readonly name: string; readonly number: number }[] {
    const found: { name: string; number: number }[] = [];
    for (const name of this.region.opcodes.keys()) {
      if (!name.startsWith(start)) continue;
      const rest = name.slice(start.length);
      if (/^\d{1,3}$/.test(rest)) found.push({ name, number: Number(rest) });
    }
    return found;
  }

  /** What nobody asked for. */
  rest(): SfzOpcode[] {
    return [...this.region.opcodes.values()].filter((o) => !this.used.has(o.name));
  }
}
