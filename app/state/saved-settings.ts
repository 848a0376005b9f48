import { create } from "zustand";
import { setUp, type Unit } from "../../core/instrument";
import { isUnitKind, type ReadySetting, type UnitKind, unitSpec } from "../../core/units";
import { reasonOf } from "../basis/reason-of";
import { saveFile } from "../basis/save-file";
import { settings } from "../storage/stores";
import { tell } from "./notices";
import { pickFiles } from "./pick-files";
import { session } from "./session";

const KEY = "unit-settings";
/** Settings of all kinds that are kept, bytes of a file, and characters of a name. */
const MOST = 400;
const LARGEST = 2_000_000;
const LONGEST_NAME = 60;

/** A setting that somebody saved, and the kind of unit that it is of. */
export interface SavedSetting extends ReadySetting {
  readonly kind: UnitKind;
}

/** What was saved in this browser, the newest first; null before it was looked up. */
export const useSavedSettings = create<{ readonly saved: readonly SavedSetting[] | null }>(() => ({ saved: null }));

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/** A setting read from outside, all of it kept in range; null where it is none. Unknown parameters and columns are left out. */
export function readSetting(value: unknown): SavedSetting | null {
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
export async function loadSavedSettings(): Promise<void> {
  const stored = await settings.getItem<unknown>(KEY).catch(() => null);
  const saved = (Array.isArray(stored) ? stored : []).flatMap((s) => readSetting(s) ?? []);
  useSavedSettings.setState({ saved: saved.slice(0, MOST) });
}

async function store(change: (saved: readonly SavedSetting[]) => readonly SavedSetting[]): Promise<void> {
  // Another tab may have saved one meanwhile.
  await loadSavedSettings();
  const saved = change(useSavedSettings.getState().saved ?? []).slice(0, MOST);
  try {
    await settings.setItem(KEY, saved);
    useSavedSettings.setState({ saved });
  } catch (error) {
    tell("error", `The setting was not saved: ${reasonOf(error)}.`);
  }
}

const isSame = (a: SavedSetting, b: SavedSetting): boolean => a.kind === b.kind && a.name === b.name;

/** What a unit is set to, under its name. */
export const settingOf = ({ kind, name, params, table }: Unit): SavedSetting => ({
  kind,
  name,
  params: Object.fromEntries(Object.entries(params).filter(([id]) => id !== "on")),
  ...(table ? { table } : {}),
});

/** Keeps what a unit is set to under its name; one of the same name gives way. */
export async function keepSetting(unit: Unit): Promise<void> {
  const setting = settingOf(unit);
  await store((saved) => [setting, ...saved.filter((s) => !isSame(s, setting))]);
  tell("good", `“${setting.name}” is among the settings of every ${unitSpec(unit.kind).label.toLowerCase()} now.`);
}

export const forgetSetting = (setting: SavedSetting): Promise<void> =>
  store((saved) => saved.filter((s) => !isSame(s, setting)));

/** Writes what a unit is set to into a file for others. */
export function settingToFile(unit: Unit): void {
  const setting = { vise: "unit setting", version: 1, ...settingOf(unit) };
  saveFile(`${unit.name}.vise-unit.json`, new Blob([JSON.stringify(setting, null, 2)], { type: "application/json" }));
}

/** Sets a unit up by a file that somebody picks, and keeps that setting. */
export async function settingFromFile(address: string, kind: UnitKind): Promise<void> {
  const [file] = await pickFiles({ accept: ".json,application/json" });
  if (!file) return;
  const fail = (why: string) => tell("error", `${file.name} ${why}. Nothing was changed.`);
  if (file.size > LARGEST) return fail("is too large for a setting");
  let value: unknown;
  try {
    value = JSON.parse(await file.text());
  } catch {
    return fail("isn’t a setting: it can’t be read as JSON");
  }
  const setting = readSetting(value);
  if (!setting) return fail("isn’t a setting of a unit");
  if (setting.kind !== kind)
    return fail(
      `is for a ${unitSpec(setting.kind).label.toLowerCase()}, not for a ${unitSpec(kind).label.toLowerCase()}`,
    );
  session.commit(setUp(address, setting));
  await store((saved) => [setting, ...saved.filter((s) => !isSame(s, setting))]);
}
