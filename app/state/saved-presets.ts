import { create } from "zustand";
import { setUp, type Unit, unitNow } from "../../core/instrument";
import { isUnitKind, type Preset, type UnitKind, unitSpec } from "../../core/units";
import { reasonOf } from "../basis/reason-of";
import { saveFile } from "../basis/save-file";
import { settings } from "../storage/stores";
import { tell } from "./notices";
import { pickFiles } from "./pick-files";
import { session } from "./session";

const KEY = "unit-settings";
/** Presets of all kinds that are kept, bytes of a file, and characters of a name. */
const MOST = 400;
const LARGEST = 2_000_000;
const LONGEST_NAME = 60;

/** A preset that somebody saved, and the kind of unit that it is of. */
export interface SavedPreset extends Preset {
  readonly kind: UnitKind;
}

/** What was saved in this browser, the newest first; null before it was looked up. */
export const useSavedPresets = create<{ readonly saved: readonly SavedPreset[] | null }>(() => ({ saved: null }));

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/** A preset read from outside, all of it kept in range; null where it is none. Unknown parameters and columns are skipped. */
export function readPreset(stored: unknown): SavedPreset | null {
  // Its parameters may have the ids of an earlier version.
  const value = unitNow(stored);
  if (!isRecord(value) || typeof value.kind !== "string" || !isUnitKind(value.kind)) return null;
  const { kind } = value;
  const spec = unitSpec(kind);
  const given = isRecord(value.params) ? value.params : {};
  const params: Record<string, number | string> = {};
  for (const param of spec.params) {
    const one = given[param.id];
    if (param.type === "choice") {
      if (param.choices.some((c) => c.id === one)) params[param.id] = String(one);
    } else if (typeof one === "number" && Number.isFinite(one))
      params[param.id] = Math.min(param.max, Math.max(param.min, one));
  }
  const rows = spec.table && Array.isArray(value.table) ? value.table.slice(0, spec.table.most) : null;
  const table = rows?.filter(isRecord).map((row) =>
    Object.fromEntries(
      (spec.table?.columns ?? []).map((c) => {
        const cell = row[c.id];
        return [
          c.id,
          typeof cell === "number" && Number.isFinite(cell) ? Math.min(c.max, Math.max(c.min, cell)) : c.default,
        ];
      }),
    ),
  );
  const name = typeof value.name === "string" ? value.name.trim().slice(0, LONGEST_NAME) : "";
  return { kind, name: name || spec.label, params, ...(table ? { table } : {}) };
}

/** Looks up what was saved. */
export async function loadSavedPresets(): Promise<void> {
  const stored = await settings.getItem<unknown>(KEY).catch(() => null);
  const saved = (Array.isArray(stored) ? stored : []).flatMap((s) => readPreset(s) ?? []);
  useSavedPresets.setState({ saved: saved.slice(0, MOST) });
}

async function store(change: (saved: readonly SavedPreset[]) => readonly SavedPreset[]): Promise<void> {
  // Another tab may have saved one meanwhile.
  await loadSavedPresets();
  const saved = change(useSavedPresets.getState().saved ?? []).slice(0, MOST);
  try {
    await settings.setItem(KEY, saved);
    useSavedPresets.setState({ saved });
  } catch (error) {
    tell("error", `The preset was not saved: ${reasonOf(error)}.`);
  }
}

const isSame = (a: SavedPreset, b: SavedPreset): boolean => a.kind === b.kind && a.name === b.name;

/** What a unit is set to, under its name. */
export const presetOf = ({ kind, name, params, table }: Unit): SavedPreset => ({
  kind,
  name,
  params: Object.fromEntries(Object.entries(params).filter(([id]) => id !== "on")),
  ...(table ? { table } : {}),
});

/** Keeps what a unit is set to under its name; one of the same name gives way. */
export async function savePreset(unit: Unit): Promise<void> {
  const preset = presetOf(unit);
  await store((saved) => [preset, ...saved.filter((s) => !isSame(s, preset))]);
  tell("good", `“${preset.name}” is among the presets of ${unitSpec(unit.kind).label} now.`);
}

export const deletePreset = (preset: SavedPreset): Promise<void> =>
  store((saved) => saved.filter((s) => !isSame(s, preset)));

/** Writes what a unit is set to into a file for others. */
export function exportPreset(unit: Unit): void {
  const preset = { vise: "unit preset", version: 1, ...presetOf(unit) };
  saveFile(`${unit.name}.vise-unit.json`, new Blob([JSON.stringify(preset, null, 2)], { type: "application/json" }));
}

/** Sets a unit up by a file that somebody picks, and saves that preset. */
export async function importPreset(address: string, kind: UnitKind): Promise<void> {
  const [file] = await pickFiles({ accept: ".json,application/json" });
  if (!file) return;
  const fail = (why: string) => tell("error", `${file.name} ${why}. Nothing was changed.`);
  if (file.size > LARGEST) return fail("is too large for a preset");
  let value: unknown;
  try {
    value = JSON.parse(await file.text());
  } catch {
    return fail("isn’t a preset: it can’t be read as JSON");
  }
  const preset = readPreset(value);
  if (!preset) return fail("isn’t a preset of a unit");
  if (preset.kind !== kind)
    return fail(`is a preset of ${unitSpec(preset.kind).label}, not of ${unitSpec(kind).label}`);
  session.commit(setUp(address, preset));
  await store((saved) => [preset, ...saved.filter((s) => !isSame(s, preset))]);
}
