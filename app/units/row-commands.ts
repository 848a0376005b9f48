import {
  addRoute,
  addressInTable,
  everyNth,
  fannedOut,
  findUnit,
  harmonics,
  pulledToHarmonics,
  pulledToOctaves,
  type RowShape,
  randomised,
  risingLater,
  rowsOf,
  setTable,
  sortedByRatio,
  sparingLocked,
  tilted,
} from "../../core/instrument";
import { isLocked, type TableRow, type TableSpec, unitSpec } from "../../core/units";
import type { Command } from "../state/commands";
import { freshId } from "../state/ids";
import { tell } from "../state/notices";
import { session } from "../state/session";

/** What is copied of a table goes into any other that has the same columns. */
let copied: { readonly rows: readonly TableRow[]; readonly row: string } | null = null;

/** What can be done with all rows of a unit's table. */
export function tableCommands(address: string): readonly Command[] {
  const look = (): { rows: readonly TableRow[]; spec: TableSpec } | null => {
    const unit = session.instrument && findUnit(session.instrument, address);
    const spec = unit && unitSpec(unit.kind).table;
    return unit && spec ? { rows: rowsOf(unit), spec } : null;
  };
  const now = look();
  if (!now) return [];
  const { spec } = now;
  const many = spec.label.toLowerCase();
  const shape = (id: string, label: string, change: () => RowShape): Command => ({
    id,
    label,
    run: () => {
      const at = look();
      if (at) session.commit(setTable(address, sparingLocked(change())(at.rows, at.spec), `${label} (${many})`));
    },
  });
  const lockAll = (locked: number) => {
    const rows = look()?.rows.map((row) => ({ ...row, locked })) ?? [];
    session.commit(setTable(address, rows, `${locked ? "Lock" : "Unlock"} all ${many}`));
  };
  const column = (id: string) => spec.columns.some((c) => c.id === id);
  const chance = (id: string, label: string): Command[] =>
    column(id) ? [shape(`random-${id}`, `${label} by chance`, () => randomised(id, 0.5, Math.random))] : [];
  return [
    shape("harmonics-16", "16 harmonics", () => harmonics(16)),
    shape("harmonics-64", "64 harmonics", () => harmonics(64)),
    shape("harmonics-most", `${spec.most} harmonics`, () => harmonics(spec.most)),
    shape("to-harmonics", "Near harmonics onto them (50 ct)", () => pulledToHarmonics(50)),
    shape("to-octaves", "Near octaves onto them (30 ct)", () => pulledToOctaves(30)),
    shape("duller", "Duller by 3 dB an octave", () => tilted(-3)),
    shape("brighter", "Brighter by 3 dB an octave", () => tilted(3)),
    shape("even-softer", "Every second softer by 6 dB", () => everyNth(2, 1, -6)),
    shape("third-softer", "Every third softer by 6 dB", () => everyNth(3, 2, -6)),
    ...(column("pan") ? [shape("fan", "Pans fanned out", () => fannedOut)] : []),
    ...(column("attack") ? [shape("later", "The higher the later (50 ms an octave)", () => risingLater(0.05))] : []),
    ...chance("level", "Levels"),
    ...chance("ratio", "Ratios"),
    ...chance("pan", "Pans"),
    ...chance("decay", "Decays"),
    shape("sort", "In the order of ratios", () => sortedByRatio),
    {
      id: "copy-rows",
      label: `Copy the ${many}`,
      run: () => {
        const at = look();
        if (at) copied = { rows: at.rows, row: spec.row };
      },
    },
    {
      id: "paste-rows",
      label: "Paste what was copied",
      why: () => (copied ? null : "nothing was copied"),
      run: () => {
        if (!copied) return;
        const rows = copied.rows
          .slice(0, spec.most)
          .map((row) => Object.fromEntries(spec.columns.map((c) => [c.id, row[c.id] ?? c.default])));
        session.commit(setTable(address, rows, `Paste ${many}`));
      },
    },
    {
      id: "lock-all",
      label: `Lock all ${many}`,
      run: () => lockAll(1),
    },
    {
      id: "unlock-all",
      label: `Unlock all ${many}`,
      why: () => (look()?.rows.some(isLocked) ? null : "none is locked"),
      run: () => lockAll(0),
    },
    shape("reset", `The ${many} as they are at first`, () => () => spec.default),
  ];
}

/** Locks a row, or lets it go. */
export function toggleLock(address: string, row: number): void {
  const unit = session.instrument && findUnit(session.instrument, address);
  const spec = unit && unitSpec(unit.kind).table;
  if (!unit || !spec) return;
  const rows = rowsOf(unit);
  const locks = !isLocked(rows[row] ?? {});
  session.commit(
    setTable(
      address,
      rows.map((r, i) => (i === row ? { ...r, locked: locks ? 1 : 0 } : r)),
      `${locks ? "Lock" : "Unlock"} ${spec.row} ${row + 1}`,
    ),
  );
}

/** Lets something move a number of one row: the routes stand at Motion then. */
export function rowRouteCommands(address: string, row: number): readonly Command[] {
  const unit = session.instrument && findUnit(session.instrument, address);
  const spec = unit && unitSpec(unit.kind).table;
  const { instrument } = session;
  if (!unit || !spec || !instrument) return [];
  const sources = [
    { id: "velocity", label: "Velocity" },
    { id: "wheel", label: "Mod wheel" },
    ...instrument.envelopes.slice(0, 2).map((u) => ({ id: `envelopes/${u.id}`, label: u.name })),
    ...instrument.macros.slice(0, 4).map((u) => ({ id: `macros/${u.id}`, label: u.name })),
  ];
  const amounts: Readonly<Record<string, number>> = { level: 12, ratio: 0.5, decay: 1, pan: 1, detune: 50 };
  return spec.columns
    .filter((c) => c.mod !== "none" && ["level", "ratio", "decay"].includes(c.id))
    .flatMap((c) =>
      sources.map(({ id, label }) => ({
        id: `${c.id}-${id}`,
        label: `${c.label} by ${label}`,
        run: () => {
          const target = addressInTable(address, row, c.id);
          const route = freshId();
          session.commit(addRoute({ id: route, source: id, target, amount: amounts[c.id] ?? 1, on: true }));
          tell(
            "good",
            `${label} moves the ${c.label.toLowerCase()} of ${spec.row} ${row + 1}: how far is set at Motion.`,
          );
        },
      })),
    );
}
