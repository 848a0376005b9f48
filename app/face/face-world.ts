import { createContext, useCallback, useContext, useRef, useSyncExternalStore } from "react";
import { bent, unbent } from "../../core/dsp";
import { passes } from "../../core/face";
import {
  type FaceItem,
  type FaceTest,
  findParam,
  type Instrument,
  type Move,
  placeInTable,
  type Tone,
} from "../../core/instrument";
import { formatValue, type ParamSpec, travelOf, valueAt } from "../../core/params";
import type { EngineHost } from "../audio/engine-host";

/** Where the instrument that a face belongs to is looked up, and how one hears that it has become another. */
export interface Instruments {
  readonly get: () => Instrument;
  readonly subscribe: (changed: () => void) => () => void;
}

/** A parameter and its new value. */
export type Change = readonly [address: string, value: number | string];

/** What the items of a face live in: the same in the editor and in the player. */
export interface FaceWorld {
  readonly instruments: Instruments;
  /** Whether they can be operated; while the face is edited they can't. */
  readonly live: boolean;
  /** Sets parameters, all in one step; one gesture with the same `what` goes on in it. */
  readonly setAll: (changes: readonly Change[], gesture: string, what: string) => void;
  /** The page that is shown. */
  readonly page: string | null;
  readonly goTo: (page: string) => void;
  readonly host: EngineHost;
}

export const FaceContext = createContext<FaceWorld | null>(null);

export function useFaceWorld(): FaceWorld {
  const world = useContext(FaceContext);
  if (!world) throw new Error("items of a face stand on a face");
  return world;
}

/** Sets one parameter, as a control does that moves one. */
export function useSet(): (address: string, value: number | string, gesture: string) => void {
  const { setAll } = useFaceWorld();
  return useCallback((address, value, gesture) => setAll([[address, value]], gesture, address), [setAll]);
}

/** Something of the instrument; whoever asks is drawn anew only where that is another by `same`. */
export function useFaceOf<T>(select: (instrument: Instrument) => T, same: (a: T, b: T) => boolean = Object.is): T {
  const { instruments } = useFaceWorld();
  const last = useRef<{ readonly from: Instrument; readonly value: T } | null>(null);
  const chosen = useRef(select);
  if (chosen.current !== select) {
    chosen.current = select;
    last.current = null;
  }
  return useSyncExternalStore(instruments.subscribe, () => {
    const from = instruments.get();
    const before = last.current;
    if (before?.from === from) return before.value;
    const value = select(from);
    const kept = before && same(before.value, value) ? before.value : value;
    last.current = { from, value: kept };
    return kept;
  });
}

/** A parameter that an item moves, as its place on its travel. A choice's places are its choices. */
export interface Bound {
  readonly address: string;
  readonly label: string;
  readonly spec: ParamSpec;
  readonly travel: number;
  readonly text: string;
  /** Places that it has; 0 for any. */
  readonly steps: number;
  readonly atTravel: (travel: number) => number | string;
  readonly standard: number | string;
  readonly standardTravel: number;
}

/** A parameter by its address; null where it is gone. */
export function boundTo(instrument: Instrument, address: string): Bound | null {
  const found = findParam(instrument, address);
  if (!found) return null;
  const { spec, value } = found;
  // A face has little room: a macro's name, a layer's for its level, else what the parameter itself is called.
  const cell = placeInTable(address);
  const layer = /^layers\/([^/]+)\/strip\/level$/.exec(address)?.[1];
  const label =
    found.unit?.kind === "macro" && spec.id === "value"
      ? found.label
      : spec.id === "mix" && found.unit
        ? found.unit.name
        : (instrument.layers.find((l) => l.id === layer)?.name ??
          (cell ? `${spec.label} ${cell.row + 1}` : spec.label));
  const text = formatValue(spec, value);
  if (spec.type === "choice") {
    const last = Math.max(1, spec.choices.length - 1);
    const at = Math.max(
      0,
      spec.choices.findIndex((c) => c.id === value),
    );
    return {
      address,
      label,
      spec,
      travel: at / last,
      text,
      steps: spec.choices.length,
      atTravel: (travel) => spec.choices[Math.round(Math.min(1, Math.max(0, travel)) * last)]?.id ?? spec.default,
      standard: spec.default,
      standardTravel:
        Math.max(
          0,
          spec.choices.findIndex((c) => c.id === spec.default),
        ) / last,
    };
  }
  // Which layer of a set is chosen has as many places as the set has layers.
  const set = /^sets\/([^/]+)\/selected$/.exec(address)?.[1];
  if (set !== undefined) {
    const count = Math.max(1, instrument.layers.filter((l) => l.set === set).length);
    const at = (chosen: number) => (Math.min(count, Math.max(1, Math.round(chosen))) - 1) / Math.max(1, count - 1);
    return {
      address,
      label,
      spec,
      travel: at(Number(value)),
      text,
      steps: count,
      atTravel: (travel) => 1 + Math.round(Math.min(1, Math.max(0, travel)) * (count - 1)),
      standard: spec.default,
      standardTravel: at(Number(spec.default)),
    };
  }
  return {
    address,
    label,
    spec,
    travel: travelOf(spec, Number(value)),
    text,
    steps: spec.unit === "switch" ? 2 : 0,
    atTravel: (travel) => valueAt(spec, Math.min(1, Math.max(0, travel))),
    standard: spec.default,
    standardTravel: travelOf(spec, Number(spec.default)),
  };
}

/** The same over a part of its travel alone, along a bent way: who stands beside it is at its nearer end. */
export function over(bound: Bound, { from, to, bend }: Pick<Move, "from" | "to" | "bend">): Bound {
  if (from === 0 && to === 1 && bend === 0) return bound;
  const span = to - from;
  const back = (travel: number) => unbent(span === 0 ? 0 : Math.min(1, Math.max(0, (travel - from) / span)), bend);
  return {
    ...bound,
    travel: back(bound.travel),
    standardTravel: back(bound.standardTravel),
    atTravel: (share) => bound.atTravel(from + bent(Math.min(1, Math.max(0, share)), bend) * span),
  };
}

/** What an item moves, in order; what is gone is left out. */
export const boundOf = (instrument: Instrument, { moves }: Pick<FaceItem, "moves">): readonly Bound[] =>
  moves.flatMap((move) => {
    const bound = boundTo(instrument, move.address);
    return bound ? over(bound, move) : [];
  });

const sameBounds = (a: readonly Bound[], b: readonly Bound[]): boolean =>
  a.length === b.length &&
  a.every((bound, i) => {
    const other = b[i] as Bound;
    return (
      bound.address === other.address &&
      bound.travel === other.travel &&
      bound.text === other.text &&
      bound.label === other.label &&
      bound.spec === other.spec &&
      // Over another part of its travel the same place means another value.
      bound.atTravel(0) === other.atTravel(0) &&
      bound.atTravel(0.5) === other.atTravel(0.5) &&
      bound.atTravel(1) === other.atTravel(1)
    );
  });

/** What an item moves, as it is now. */
export function useBounds({ moves }: Pick<FaceItem, "moves">): readonly Bound[] {
  return useFaceOf(
    useCallback((instrument: Instrument) => boundOf(instrument, { moves }), [moves]),
    sameBounds,
  );
}

/** Moves all that an item is bound to, each over its own range, by one place of the first; or sets it all back. */
export function useMoves(bounds: readonly Bound[]): {
  readonly to: (travel: number, gesture: string) => void;
  readonly reset: () => void;
} {
  const { setAll } = useFaceWorld();
  const what = bounds[0]?.address ?? "";
  return {
    to: (travel, gesture) =>
      setAll(
        bounds.map((bound) => [bound.address, bound.atTravel(travel)] as const),
        gesture,
        what,
      ),
    reset: () =>
      setAll(
        bounds.map((bound) => [bound.address, bound.standard] as const),
        "reset",
        what,
      ),
  };
}

/** Whether a test holds now; of what is gone it does. */
export function testHolds(instrument: Instrument, test: FaceTest): boolean {
  const bound = boundTo(instrument, test.address);
  return !bound || passes(test, bound.travel);
}

/** What an item's conditions make of it: whether it is shown and usable, in which tone, and by which picture. */
export interface Standing {
  readonly shown: boolean;
  readonly usable: boolean;
  readonly tone: Tone | null;
  readonly picture: string | null;
}

const PLAIN: Standing = { shown: true, usable: true, tone: null, picture: null };

/** How an item stands by its conditions; without any it is shown and usable. */
export function standingOf(instrument: Instrument, { when }: Pick<FaceItem, "when">): Standing {
  if (when.length === 0) return PLAIN;
  let standing = PLAIN;
  for (const condition of when) {
    const holds = testHolds(instrument, condition);
    if (condition.does === "shows") standing = { ...standing, shown: standing.shown && holds };
    else if (condition.does === "enables") standing = { ...standing, usable: standing.usable && holds };
    else if (holds && condition.does === "colours") standing = { ...standing, tone: condition.tone };
    else if (holds) standing = { ...standing, picture: condition.picture };
  }
  return standing;
}

const sameStanding = (a: Standing, b: Standing): boolean =>
  a.shown === b.shown && a.usable === b.usable && a.tone === b.tone && a.picture === b.picture;

/** How an item stands by its conditions, as it is now. */
export function useStanding({ when }: Pick<FaceItem, "when">): Standing {
  return useFaceOf(
    useCallback((instrument: Instrument) => standingOf(instrument, { when }), [when]),
    sameStanding,
  );
}
