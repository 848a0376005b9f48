import { type FoundParam, findParam, formerly, type Instrument, setParam } from "../instrument";
import type { ParamValue } from "../params";
import { reachOf } from "./reach";

/** How everything that a face moves stands: values by addresses. */
export type Snapshot = Readonly<Record<string, ParamValue>>;

/** All that a face moves, once each. */
const movedBy = (doc: Instrument): readonly string[] => [
  ...new Set(doc.face.items.flatMap((item) => reachOf(doc, item))),
];

/** How all that the face moves stands now. */
export const snapshotOf = (doc: Instrument): Snapshot =>
  Object.fromEntries(
    movedBy(doc).flatMap((address) => {
      const found = findParam(doc, address);
      return found ? [[address, found.value] as const] : [];
    }),
  );

/** What a snapshot says of a parameter, under its address of now or of before version 14. */
function valueIn(snapshot: Snapshot, { address, spec, unit }: FoundParam): ParamValue | undefined {
  if (Object.hasOwn(snapshot, address)) {
    const value = snapshot[address];
    const now = unit && spec.type === "choice" ? formerly(unit.kind, spec.id) : null;
    return now && value !== undefined ? now.now(value) : value;
  }
  const before = unit && formerly(unit.kind, spec.id);
  if (!before) return undefined;
  const value = snapshot[`${address.slice(0, address.lastIndexOf("/") + 1)}${before.id}`];
  return value === undefined ? undefined : before.now(value);
}

/** The instrument with all that the face moves as a snapshot says; what isn't on the face, or can't be so, stays as it is. Never throws. */
export function withSnapshot(doc: Instrument, snapshot: Snapshot): Instrument {
  let next = doc;
  for (const address of movedBy(doc)) {
    const found = findParam(next, address);
    const value = found ? valueIn(snapshot, found) : undefined;
    if (!found || value === undefined || value === found.value) continue;
    const fits =
      found.spec.type === "choice"
        ? found.spec.choices.some((choice) => choice.id === value)
        : typeof value === "number" && Number.isFinite(value);
    if (fits) next = setParam(next, address, value).apply(next);
  }
  return next;
}

/** A snapshot with its name, as a player keeps it. */
export interface KeptSnapshot {
  readonly name: string;
  readonly values: Snapshot;
}

/** Most snapshots that are kept, and the longest name of one. */
export const MOST_SNAPSHOTS = 200;
const LONGEST_NAME = 80;

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/** Snapshots out of text that anybody may have written: what is none is left out. Never throws. */
export function readSnapshots(text: string): readonly KeptSnapshot[] {
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    return [];
  }
  return (Array.isArray(raw) ? raw : [])
    .filter(isRecord)
    .slice(0, MOST_SNAPSHOTS)
    .flatMap(({ name, values }): KeptSnapshot[] => {
      if (typeof name !== "string" || name.trim() === "" || !isRecord(values)) return [];
      const kept = Object.entries(values).filter(
        (entry): entry is [string, ParamValue] => typeof entry[1] === "number" || typeof entry[1] === "string",
      );
      return [{ name: name.trim().slice(0, LONGEST_NAME), values: Object.fromEntries(kept) }];
    });
}
