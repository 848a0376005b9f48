import { hertzOf, nameOfNote, parseNote } from "../audio";
import { clampValue, type NumberParam, type ParamSpec, type ParamValue } from "./spec";

const fixed = (value: number, digits: number): string => {
  const text = value.toFixed(digits);
  return (Number(text) === 0 ? (0).toFixed(digits) : text).replace("-", "−");
};

/** A number in its unit, as people write it: `1.25 kHz`, `−6.0 dB`, `35 ms`, `L 20`. */
export function formatNumber(unit: NumberParam["unit"], value: number): string {
  switch (unit) {
    case "hertz":
      return value >= 1000
        ? `${fixed(value / 1000, 2)} kHz`
        : `${fixed(value, value < 0.1 ? 3 : value < 10 ? 2 : 1)} Hz`;
    case "seconds":
      if (value >= 1) return `${fixed(value, 2)} s`;
      return `${fixed(value * 1000, value > 0 && value < 0.001 ? 2 : value < 0.1 ? 1 : 0)} ms`;
    case "decibels":
      return Number.isFinite(value) ? `${fixed(value, 1)} dB` : "−∞ dB";
    case "percent":
      return `${fixed(value * 100, 0)} %`;
    case "semitones":
      return `${fixed(value, 2)} st`;
    case "cents":
      return `${fixed(value, 1)} ct`;
    case "pan":
      return Math.abs(value) < 0.005 ? "centre" : `${value < 0 ? "L" : "R"} ${fixed(Math.abs(value) * 100, 0)}`;
    case "count":
      return fixed(Math.round(value), 0);
    case "ratio":
      // As finely as it was typed, where that is finer than usual.
      return `× ${fixed(value, value < 1 ? 4 : 2 + [100, 1000].filter((n) => Math.abs(value * n - Math.round(value * n)) > 0.005).length)}`;
    case "octaves":
      return `${fixed(value, 2)} oct`;
    case "degrees":
      return `${fixed(value, 0)}°`;
    case "note":
      return nameOfNote(Math.round(value));
    case "controller":
      return Math.round(value) < 0 ? "none" : `CC ${fixed(Math.round(value) + 0, 0)}`;
    case "optional":
      return value < 0.5 ? "none" : fixed(Math.round(value), 0);
    case "switch":
      return value < 0.5 ? "off" : "on";
  }
}

/** A parameter's value as people read it. */
export function formatValue(spec: ParamSpec, value: ParamValue): string {
  if (spec.type === "choice") return spec.choices.find((c) => c.id === value)?.label ?? String(value);
  return spec.lowest !== undefined && Number(value) <= spec.min ? spec.lowest : formatNumber(spec.unit, Number(value));
}

/**
 * The value that typed text means in a unit: a number with or without its unit (`440`, `1.2k`, `-6 dB`, `30ms`), a note
 * name where a frequency is asked for, `L 20` or `centre` for pan. Null when it can't be understood.
 */
export function parseNumber(unit: NumberParam["unit"], text: string): number | null {
  const plain = pointed(
    text
      .trim()
      .replace("−", "-")
      .replace(/(\d)[ \u00a0\u202f'’](?=\d{3}(?!\d))/g, "$1"),
  )
    .replace(/^×\s*/, "")
    .toLowerCase();
  if (unit === "hertz") {
    const note = /^[a-g]/.test(plain) ? parseNote(text) : null;
    if (note !== null) return hertzOf(note);
  }
  if (unit === "note") {
    const note = parseNote(text);
    if (note !== null) return note;
  }
  if (plain === "none" && unit === "controller") return -1;
  if (plain === "none" && unit === "optional") return 0;
  if (unit === "switch" && (plain === "on" || plain === "off")) return plain === "on" ? 1 : 0;
  const controller = unit === "controller" ? /^cc\s*(\d+)$/.exec(plain) : null;
  if (controller) return Number(controller[1]);
  if (unit === "pan") {
    if (/^c(ent(re|er))?$/.test(plain)) return 0;
    const side = /^(l|left|r|right)\s*(\d+(?:\.\d+)?)\s*%?$/.exec(plain);
    if (side) return ((side[1]?.startsWith("l") ? -1 : 1) * Number(side[2])) / 100;
  }
  // 1k2 is 1.2 k, as it stands on drawings of circuits.
  const letter = /^([+-]?\d+)(k)(\d+)((?:hz)?)$/.exec(plain);
  if (letter) return parseNumber(unit, `${letter[1]}.${letter[3]} ${letter[2]}${letter[4]}`);
  const match = /^([+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d{1,3})?)\s*([a-z%×°]*)$/.exec(plain);
  if (!match) return null;
  const number = Number(match[1]);
  const suffix = match[2] ?? "";
  const scale = SUFFIXES[unit][suffix];
  return scale === undefined ? null : number * scale;
}

/** A number with a point before its fraction. Of points and commas the last is that, where the others part its thousands; a single one always is. */
function pointed(text: string): string {
  const parts = /^([+-]?)(\d{1,3}(?:[.,]\d{3})+)([.,])(\d+)(.*)$/.exec(text);
  const [, sign, thousands = "", point, fraction, rest] = parts ?? [];
  // Both kinds: those before the last part thousands, and are all alike.
  if (parts && point && !thousands.includes(point))
    return `${sign}${thousands.replace(/[.,]/g, "")}.${fraction}${rest}`;
  const whole = /^([+-]?\d{1,3})((?:[.,]\d{3}){2,})(?![\d.,])(.*)$/.exec(text);
  if (whole) return `${whole[1]}${whole[2]?.replace(/[.,]/g, "")}${whole[3]}`;
  return text.replace(",", ".");
}

const SUFFIXES: Record<NumberParam["unit"], Record<string, number>> = {
  hertz: { "": 1, hz: 1, k: 1000, khz: 1000 },
  seconds: { "": 1, s: 1, ms: 0.001 },
  decibels: { "": 1, db: 1 },
  percent: { "": 0.01, "%": 0.01 },
  semitones: { "": 1, st: 1, ct: 0.01, oct: 12 },
  cents: { "": 1, ct: 1, st: 100 },
  pan: { "": 0.01, "%": 0.01 },
  count: { "": 1 },
  ratio: { "": 1, x: 1, "×": 1 },
  octaves: { "": 1, oct: 1, st: 1 / 12 },
  degrees: { "": 1, "°": 1 },
  note: { "": 1 },
  controller: { "": 1 },
  optional: { "": 1 },
  switch: { "": 1, "%": 0.01 },
};

/** The value of a parameter that typed text means, kept in range; null when it can't be understood. */
export function parseValue(spec: ParamSpec, text: string): ParamValue | null {
  if (spec.type === "choice") {
    const wanted = text.trim().toLowerCase();
    return spec.choices.find((c) => c.id === wanted || c.label.toLowerCase() === wanted)?.id ?? null;
  }
  if (spec.lowest !== undefined && text.trim().toLowerCase() === spec.lowest) return spec.min;
  const value = parseNumber(spec.unit, text);
  return value === null ? null : clampValue(spec, value);
}

/** Whether typed text means a number beyond the range of a parameter. */
export function typedBeyond(spec: ParamSpec, text: string): boolean {
  if (spec.type === "choice" || (spec.lowest !== undefined && text.trim().toLowerCase() === spec.lowest)) return false;
  const value = parseNumber(spec.unit, text);
  const slack = 1e-9 * Math.max(1, Math.abs(spec.min), Math.abs(spec.max));
  return value !== null && (value < spec.min - slack || value > spec.max + slack);
}

/** A route's amount in the target's modulation unit: octaves where it multiplies, else the target's own unit, with a sign. */
export function formatAmount(spec: NumberParam, amount: number): string {
  const text =
    spec.mod === "octaves"
      ? `${fixed(amount, 2)} oct`
      : spec.unit === "pan" || spec.unit === "switch"
        ? `${fixed(amount * 100, 0)} %`
        : formatNumber(spec.unit, amount);
  return amount > 0 ? `+${text}` : text;
}

/** The amount that typed text means for a route to this target; null when it can't be understood. */
export const parseAmount = (spec: NumberParam, text: string): number | null =>
  parseNumber(spec.mod === "octaves" ? "octaves" : spec.unit, text);

/** The largest amount that makes sense for a route to this target, in its modulation unit. */
export const amountRange = (spec: NumberParam): number =>
  spec.mod === "octaves" ? Math.min(10, Math.log2(spec.max / spec.min)) : spec.max - spec.min;
