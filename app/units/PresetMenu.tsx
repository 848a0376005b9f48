import { useEffect } from "react";
import { setUp, type Unit } from "../../core/instrument";
import { presetsOf } from "../../core/units";
import type { Command } from "../state/commands";
import {
  deletePreset,
  exportPreset,
  importPreset,
  loadSavedPresets,
  savePreset,
  useSavedPresets,
} from "../state/saved-presets";
import { session } from "../state/session";
import { WordMenu } from "../widgets/CommandMenu";

/** Presets of a unit’s kind: the factory’s and those that were saved; saved, written to files, read from them. */
export function PresetMenu({ address, unit }: { address: string; unit: Unit }) {
  const all = useSavedPresets((s) => s.saved);
  useEffect(() => {
    if (useSavedPresets.getState().saved === null) void loadSavedPresets();
  }, []);
  const { kind } = unit;
  const factory = presetsOf(kind);
  const saved = (all ?? []).filter((s) => s.kind === kind);
  const same = saved.find((s) => s.name === unit.name);
  const commands: Command[] = [
    ...factory.map((r, i) => ({ id: `factory-${i}`, label: r.name, run: () => session.commit(setUp(address, r)) })),
    ...saved.map((s, i) => ({
      id: `saved-${i}`,
      label: `${s.name} (saved)`,
      run: () => session.commit(setUp(address, s)),
    })),
    { id: "keep", label: `Save as “${unit.name}”`, run: () => void savePreset(unit) },
    ...(same ? [{ id: "forget", label: `Delete “${same.name}”`, run: () => void deletePreset(same) }] : []),
    { id: "to-file", label: "Export to a file", run: () => exportPreset(unit) },
    { id: "from-file", label: "Import from a file …", run: () => void importPreset(address, kind) },
  ];
  return <WordMenu word="Preset" commands={commands} />;
}
