import { changeSlices, changeTake, newUnit, type Slice, type Take, type Unit } from "../../../core/instrument";
import { type Normalising, normalisingGains } from "../../../core/mapping";
import { plural } from "../../../core/params";
import { type UnitKind, unitSpec } from "../../../core/units";
import { reasonOf } from "../../basis/reason-of";
import { Errand } from "../../state/errand";
import { freshId } from "../../state/ids";
import { tell } from "../../state/notices";
import { session } from "../../state/session";
import { withProgress } from "../../state/with-progress";
import { Cancelled } from "../../workers/audio-worker";

/** The kinds of treatment in the order in which lists offer them. */
export const TREATMENTS = [
  "gain",
  "denoise",
  "offset",
  "fadeIn",
  "fadeOut",
  "reverse",
  "stretch",
] as const satisfies UnitKind[];

export type TreatmentKind = (typeof TREATMENTS)[number];

/** A new treatment of a kind. */
export const newTreatment = (kind: TreatmentKind, params: Unit["params"] = {}): Unit => {
  const unit = newUnit(kind, freshId());
  return { ...unit, params: { ...unit.params, ...params } };
};

/** Changes the treatments of some slices, or of the whole take where none is named. */
export function changeTreatments(
  take: Take,
  ids: ReadonlySet<string>,
  name: string,
  change: (units: readonly Unit[]) => readonly Unit[],
  gesture: string | null = null,
): void {
  if (ids.size === 0) session.commit(changeTake(take.id, name, { treatments: change(take.treatments) }), gesture);
  else
    session.commit(
      changeSlices(take.id, ids, name, (s) => ({ ...s, treatments: change(s.treatments) })),
      gesture,
    );
}

export const labelOf = (unit: Unit): string => unitSpec(unit.kind).label;

const NORMALISED = "Normalise";

/** Normalises some slices: measures their treated sound without the gain of an earlier normalising, and puts that gain last. */
export async function normalise(take: Take, slices: readonly Slice[], how: Normalising): Promise<void> {
  const without = (units: readonly Unit[]) => units.filter((u) => u.name !== NORMALISED);
  const errand = Errand.begin("normalise sounds");
  if (!errand) return;
  try {
    const bare = slices.map((s) => ({ ...s, treatments: without(s.treatments) }));
    const levels = await withProgress(`Measuring ${plural(slices.length, "sound")}`, (worker, progress) =>
      worker.levels(take, bare, progress),
    );
    const gains = normalisingGains(slices, levels, how);
    const what = `Normalise ${plural(slices.length, "sound")}`;
    const edit = changeSlices(take.id, new Set(slices.map((s) => s.id)), what, (s) => {
      const gain = gains.get(s.id);
      if (gain === undefined) return s;
      return {
        ...s,
        treatments: [...without(s.treatments), { ...newTreatment("gain", { level: gain }), name: NORMALISED }],
      };
    });
    if ((await errand.deliver(edit, `${plural(slices.length, "sound")} normalised`)) !== "open") return;
    const values = [...gains.values()];
    if (values.length > 0)
      tell(
        "good",
        `${plural(values.length, "sound")} normalised: ${Math.min(...values).toFixed(1)} to ${Math.max(...values).toFixed(1)} dB.`,
        session.undoAction(),
      );
  } catch (error) {
    if (!(error instanceof Cancelled)) tell("error", `It was not normalised: ${reasonOf(error)}.`);
  }
}
