import { useRef, useState } from "react";
import { type KeptSnapshot, MOST_SNAPSHOTS, readSnapshots, snapshotOf, withSnapshot } from "../../core/face";
import type { Instrument } from "../../core/instrument";
import { saveFile } from "../basis/save-file";

/** Stands for how the instrument was shipped. */
const SHIPPED = "·";

const keyOf = ({ id }: Instrument): string => `vise-player:${id}`;

/** What this browser keeps for an instrument; a page from a disk may have no place for it. */
function kept(instrument: Instrument): readonly KeptSnapshot[] {
  try {
    return readSnapshots(localStorage.getItem(keyOf(instrument)) ?? "");
  } catch {
    return [];
  }
}

interface SnapshotsProps {
  /** As it was shipped, and as it stands now. */
  readonly shipped: Instrument;
  readonly now: () => Instrument;
  readonly show: (instrument: Instrument) => void;
  readonly told: (text: string) => void;
}

/** How the face stands, kept under names in this browser: chosen, kept, written to a file and read from one. */
export function Snapshots({ shipped, now, show, told }: SnapshotsProps) {
  const [list, setList] = useState(() => kept(shipped));
  const [chosen, setChosen] = useState(SHIPPED);
  const file = useRef<HTMLInputElement>(null);
  const store = (next: readonly KeptSnapshot[]) => {
    setList(next);
    try {
      localStorage.setItem(keyOf(shipped), JSON.stringify(next));
    } catch {
      told("This browser keeps nothing for this page: export the presets to a file.");
    }
  };
  const keep = () => {
    const used = new Set(list.map((s) => s.name));
    let n = list.length + 1;
    while (used.has(`Preset ${n}`)) n++;
    const name = `Preset ${n}`;
    store([...list, { name, values: snapshotOf(now()) }].slice(-MOST_SNAPSHOTS));
    setChosen(name);
  };
  const choose = (name: string) => {
    setChosen(name);
    const values = name === SHIPPED ? snapshotOf(shipped) : list.find((s) => s.name === name)?.values;
    if (values) show(withSnapshot(now(), values));
  };
  const read = async (given: File | undefined) => {
    if (!given) return;
    const found = readSnapshots(await given.text());
    if (found.length === 0) return told(`${given.name} holds no presets.`);
    const names = new Set(found.map((s) => s.name));
    store([...list.filter((s) => !names.has(s.name)), ...found].slice(-MOST_SNAPSHOTS));
  };
  return (
    <>
      <select aria-label="Preset" value={chosen} onChange={(event) => choose(event.target.value)}>
        <option value={SHIPPED}>Factory</option>
        {list.map(({ name }) => (
          <option key={name} value={name}>
            {name}
          </option>
        ))}
      </select>
      <button type="button" onClick={keep} title="Saves the settings of the whole face, in this browser">
        Save
      </button>
      <button
        type="button"
        aria-label="Export presets"
        disabled={list.length === 0}
        title="Exports all presets to a file"
        onClick={() =>
          saveFile(
            `${shipped.about.name || "instrument"}-presets.json`,
            new Blob([JSON.stringify(list, null, 1)], { type: "application/json" }),
          )
        }
      >
        Export
      </button>
      <button
        type="button"
        aria-label="Import presets"
        title="Imports presets from a file"
        onClick={() => file.current?.click()}
      >
        Import
      </button>
      <input
        ref={file}
        type="file"
        accept="application/json,.json"
        aria-label="A file of presets"
        hidden
        onChange={(event) => {
          void read(event.target.files?.[0]);
          event.target.value = "";
        }}
      />
    </>
  );
}
