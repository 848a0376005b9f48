import type { Random } from "../../audio";
import type { Zone } from "../../instrument";

/** How a number of several zones is changed at once. */
export type BulkChange =
  | { readonly kind: "set"; readonly to: number }
  | { readonly kind: "add"; readonly by: number }
  | { readonly kind: "scale"; readonly by: number }
  /** From the lowest root to the highest. */
  | { readonly kind: "ramp"; readonly from: number; readonly to: number }
  /** By as much either way, by chance. */
  | { readonly kind: "scatter"; readonly by: number };

const PLAIN = /^-?(?:\d+[.,]?\d*|[.,]\d+)$/;

/** A bare number, with a comma or a point, a hyphen or a minus. */
function plain(text: string): number | null {
  const trimmed = text.trim().replace("−", "-");
  return PLAIN.test(trimmed) ? Number(trimmed.replace(",", ".")) : null;
}

/**
 * Reads what was typed for several zones: `+3` and `+−3` add, `×1.5` or `*1.5` scales, `1…10` or `1..10` runs from the lowest root to the highest, `±2` or
 * `~2` scatters; anything else is a value as `parse` reads it. What is added is in the field's steps, as `unit` reads it. Null for nothing that can be read.
 */
export function parseBulk(
  text: string,
  parse: (text: string) => number | null,
  unit: (text: string) => number | null = (t) => plain(t) ?? parse(t),
): BulkChange | null {
  const typed = text.trim();
  const ramp = /^(.+?)(?:…|\.\.\.?)(.+)$/.exec(typed);
  if (ramp) {
    const [from, to] = [parse(ramp[1] ?? ""), parse(ramp[2] ?? "")];
    if (from !== null && to !== null) return { kind: "ramp", from, to };
  }
  const rest = typed.slice(1);
  switch (typed[0]) {
    case "+": {
      const by = unit(rest);
      return by === null ? null : { kind: "add", by };
    }
    case "×":
    case "*": {
      const by = plain(rest);
      return by === null ? null : { kind: "scale", by };
    }
    case "±":
    case "~": {
      const by = unit(rest);
      return by === null ? null : { kind: "scatter", by: Math.abs(by) };
    }
    default: {
      const to = parse(typed);
      return to === null ? null : { kind: "set", to };
    }
  }
}

/** The values that a field of zones gets, by zone; limits and whole numbers are the field's own business. */
export function bulkValues(
  change: BulkChange,
  zones: readonly Zone[],
  fieldOf: (zone: Zone) => number,
  random: Random,
): Map<string, number> {
  const low = zones.reduce((least, z) => Math.min(least, z.root), 127);
  const high = zones.reduce((most, z) => Math.max(most, z.root), 0);
  const value = (zone: Zone): number => {
    switch (change.kind) {
      case "set":
        return change.to;
      case "add":
        return fieldOf(zone) + change.by;
      case "scale":
        return fieldOf(zone) * change.by;
      case "ramp":
        return high > low ? change.from + ((change.to - change.from) * (zone.root - low)) / (high - low) : change.from;
      case "scatter":
        return fieldOf(zone) + (2 * random() - 1) * change.by;
    }
  };
  return new Map(zones.map((zone) => [zone.id, value(zone)]));
}
