import { nameOfNote, parseNote } from "../audio";
import { type Instrument, type Zone, zoneLimits } from "../instrument";

/** Columns of numbers, with the heads that a spreadsheet shows. */
const COLUMNS = [
  ["root", "root"],
  ["keyLow", "from key"],
  ["keyHigh", "to key"],
  ["velLow", "from velocity"],
  ["velHigh", "to velocity"],
  ["keyFadeLow", "fade in keys"],
  ["keyFadeHigh", "fade out keys"],
  ["velFadeLow", "fade in velocities"],
  ["velFadeHigh", "fade out velocities"],
  ["repeat", "repeat"],
  ["tune", "tuning (cents)"],
  ["gain", "level (dB)"],
  ["pan", "pan (-1 to 1)"],
  ["track", "tracking (0 to 1)"],
] as const satisfies readonly (readonly [keyof Zone, string])[];
type Column = (typeof COLUMNS)[number][0];

const ZONE = "zone";

/** A cell without what would break the table: tabs and line ends, and what a spreadsheet would take for a formula. */
const cell = (text: string): string => text.replace(/[\t\r\n]+/g, " ").replace(/^[=+@]/, "'$&");

/** Zones as a table of tab-separated values with heads, as spreadsheets take them: keys as names with their numbers, numbers plain. */
export function zoneTable(instrument: Instrument, ids: ReadonlySet<string>): string {
  const names = new Map(instrument.samples.map((s) => [s.sha, s.name]));
  const lines = [[ZONE, "sample", "group", ...COLUMNS.map(([, head]) => head)].join("\t")];
  for (const layer of instrument.layers) {
    for (const group of layer.groups) {
      for (const zone of group.zones) {
        if (!ids.has(zone.id)) continue;
        const numbers = COLUMNS.map(([id]) =>
          id === "root" || id === "keyLow" || id === "keyHigh" ? nameOfNote(zone[id]) : String(zone[id]),
        );
        lines.push(
          [zone.id, cell(names.get(zone.sample ?? "") ?? "computed"), cell(group.name), ...numbers].join("\t"),
        );
      }
    }
  }
  return `${lines.join("\n")}\n`;
}

/** What a table changes of zones, by id, and what of it could not be read. */
export interface ReadZoneTable {
  readonly changes: ReadonlyMap<string, Partial<Pick<Zone, Column>>>;
  readonly problems: readonly string[];
}

function numberIn(id: Column, text: string): number | null {
  const trimmed = text.trim().replace("−", "-");
  const number = /^-?(?:\d+[.,]?\d*|[.,]\d+)$/.test(trimmed) ? Number(trimmed.replace(",", ".")) : null;
  const isKey = id === "root" || id === "keyLow" || id === "keyHigh";
  const value = number ?? (isKey ? parseNote(trimmed) : null);
  if (value === null) return null;
  const { min, max, whole } = zoneLimits(id);
  return value < min || value > max ? null : whole ? Math.round(value) : value;
}

/**
 * Reads a table as zoneTable writes it, or one with any of its columns by their heads. Rows are for the zones that their column `zone` names; without such a
 * column for `zones` in their order. Cells that can't be read or lie beyond their limits change nothing and are told with their row.
 */
export function readZoneTable(text: string, zones: readonly Zone[]): ReadZoneTable {
  const rows = text.split(/\r?\n/).filter((line) => line.trim() !== "");
  const heads = (rows[0] ?? "").split("\t").map((h) => h.trim().toLowerCase());
  const columns = heads.map((head) => COLUMNS.find(([, name]) => name.toLowerCase() === head)?.[0] ?? null);
  const problems: string[] = [];
  const changes = new Map<string, Partial<Pick<Zone, Column>>>();
  if (columns.every((c) => c === null)) {
    const known = COLUMNS.map(([, head]) => head).join(", ");
    return { changes, problems: [`its first row names none of the columns ${known}`] };
  }
  const byId = new Map(zones.map((z) => [z.id, z]));
  const named = heads.indexOf(ZONE);
  rows.slice(1).forEach((line, i) => {
    const cells = line.split("\t");
    const zone = named < 0 ? zones[i] : byId.get(cells[named]?.trim() ?? "");
    if (!zone) {
      problems.push(`row ${i + 2}: there is no zone for it`);
      return;
    }
    const change: Record<string, number> = {};
    columns.forEach((id, c) => {
      const typed = cells[c]?.trim() ?? "";
      if (id === null || typed === "") return;
      const value = numberIn(id, typed);
      if (value === null) problems.push(`row ${i + 2}: ${heads[c]} can’t be “${typed.slice(0, 40)}”`);
      else if (value !== zone[id]) change[id] = value;
    });
    if (Object.keys(change).length > 0) changes.set(zone.id, change);
  });
  return { changes, problems };
}
