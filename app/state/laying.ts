import { createStore } from "zustand/vanilla";
import { nameOfNote } from "../../core/audio";
import { type Instrument, listZones, type Sample } from "../../core/instrument";
import { type Laying, layEdit } from "../../core/mapping";
import { plural } from "../../core/params";
import { newGesture } from "./gesture";
import { freshId } from "./ids";
import { tell } from "./notices";
import { session } from "./session";
import { setView } from "./view";

/** Samples that were laid out last, as long as nothing else has been done: they can be laid otherwise, in the same undo step. */
interface LastLaid {
  readonly samples: readonly Sample[];
  readonly laying: Laying;
  /** The zones on which they were dropped, as they stood. */
  readonly target: ReadonlySet<string>;
  readonly gesture: string;
  /** The instrument before, and what came of it. */
  readonly before: Instrument;
  readonly after: Instrument;
}

export const lastLaid = createStore<{ readonly laid: LastLaid | null }>(() => ({ laid: null }));

/** Where samples are dropped: a key, how others follow, and the zones that lie there. */
export interface DropPlace {
  readonly key: number;
  readonly step: Laying["step"];
  readonly target: ReadonlySet<string>;
}

/** Lays samples out from where they were dropped, beside what is mapped; they are selected afterwards. */
export function layFrom(samples: readonly Sample[], { key, step, target }: DropPlace): void {
  const before = session.instrument;
  if (!before || samples.length === 0) return;
  const laying: Laying = { key, step, cover: false, folders: "together", onto: "keys" };
  lay({ samples, laying, target, gesture: newGesture(), before, after: before });
}

/** Lays the samples of the last drop out in another way. */
export function layOtherwise(change: Partial<Laying>): void {
  const { laid } = lastLaid.getState();
  if (laid) lay({ ...laid, laying: { ...laid.laying, ...change } });
}

function lay(given: LastLaid): void {
  const { samples, laying, target, gesture, before } = given;
  const taken = new Set(listZones(before).map((z) => z.id));
  const zones = listZones(before).filter((z) => target.has(z.id));
  const made = layEdit(before, samples, laying, zones, () => {
    const id = freshId(taken);
    taken.add(id);
    return id;
  });
  if (!made) return;
  session.commit(made.edit, gesture);
  const after = session.instrument;
  if (!after) return;
  setView({ zoneIds: made.zones });
  lastLaid.setState({ laid: { ...given, after } });
  if (made.left > 0)
    tell(
      "warning",
      `For ${plural(made.left, "sample")} no ${laying.onto === "instead" ? "zone" : "key"} was left; ${made.left === 1 ? "it stays" : "they stay"} in the pool.`,
    );
}

/** Where samples were laid, in words. */
export const laidText = ({ samples, laying: { key, onto } }: LastLaid): string =>
  onto === "keys"
    ? `${plural(samples.length, "sample")} from ${nameOfNote(key)} · ${key} up`
    : onto === "repeats"
      ? `${plural(samples.length, "sample")} as ${samples.length === 1 ? "a further repeat" : "further repeats"}`
      : `${plural(samples.length, "sample")} in place of what the zone played`;

/** Ends the choice: what was laid stays as it is. */
export const keepLaid = (): void => lastLaid.setState({ laid: null });

// Whatever else is done to the instrument: how samples were laid isn't the question any more.
session.store.subscribe((state) => {
  const { laid } = lastLaid.getState();
  if (laid && state.history?.present !== laid.after) keepLaid();
});
