import { useEffect } from "react";
import { setUp, type Unit } from "../../core/instrument";
import { readySettings } from "../../core/units";
import type { Command } from "../state/commands";
import {
  forgetSetting,
  keepSetting,
  loadSavedSettings,
  settingFromFile,
  settingToFile,
  useSavedSettings,
} from "../state/saved-settings";
import { session } from "../state/session";
import { WordMenu } from "../widgets/CommandMenu";

/** Presets of a unit’s kind: the factory’s and those that were saved; saved, written to files, read from them. */
export function PresetMenu({ address, unit }: { address: string; unit: Unit }) {
  const all = useSavedSettings((s) => s.saved);
  useEffect(() => {
    if (useSavedSettings.getState().saved === null) void loadSavedSettings();
  }, []);
  const { kind } = unit;
  const ready = readySettings(kind);
  const saved = (all ?? []).filter((s) => s.kind === kind);
  const same = saved.find((s) => s.name === unit.name);
  const commands: Command[] = [
    ...ready.map((r, i) => ({ id: `ready-${i}`, label: r.name, run: () => session.commit(setUp(address, r)) })),
    ...saved.map((s, i) => ({
      id: `saved-${i}`,
      label: `${s.name} (saved)`,
      run: () => session.commit(setUp(address, s)),
    })),
    { id: "keep", label: `Save as “${unit.name}”`, run: () => void keepSetting(unit) },
    ...(same ? [{ id: "forget", label: `Delete “${same.name}”`, run: () => void forgetSetting(same) }] : []),
    { id: "to-file", label: "Export to a file", run: () => settingToFile(unit) },
    { id: "from-file", label: "Import from a file …", run: () => void settingFromFile(address, kind) },
  ];
  return <WordMenu word="Preset" commands={commands} />;
}
