import { namesOfSlices } from "../../../core/formats";
import {
  addSamples,
  dropSamples,
  followLoss,
  followLossText,
  playedSamples,
  replaceSamples,
  type Take,
  together,
  usedSamples,
} from "../../../core/instrument";
import { plural } from "../../../core/params";
import { reasonOf } from "../../basis/reason-of";
import { Errand } from "../../state/errand";
import { tell } from "../../state/notices";
import { placeAll } from "../../state/placing";
import { proposing } from "../../state/proposing";
import { session } from "../../state/session";
import { withProgress } from "../../state/with-progress";
import { Cancelled } from "../../workers/audio-worker";
import { type Recut, recutOf } from "./recut";

/** Cuts the kept slices of a take out as samples, for the instrument that is open now; null when it was cancelled or failed. */
export async function cutSamples(take: Take): Promise<{ readonly errand: Errand; readonly recut: Recut } | null> {
  const errand = Errand.begin("make samples");
  if (!errand) return null;
  const kept = take.slices.filter((s) => s.keep);
  const names = namesOfSlices(errand.instrument.naming, take, kept);
  try {
    const fresh = await withProgress(`Cutting ${take.name}`, (worker, progress) =>
      worker.makeSamples(take, kept, names, progress),
    );
    return { errand, recut: recutOf(take, fresh, errand.now.samples, usedSamples(errand.now)) };
  } catch (error) {
    if (!(error instanceof Cancelled)) tell("error", `${take.name} was not cut: ${reasonOf(error)}.`);
    return null;
  }
}

/**
 * Puts cut samples into the instrument for which they were cut; `update` also puts them in the place of those that it uses. Earlier cuts of the same
 * slices that nothing uses go: placed as well they would be repeats of themselves.
 */
export async function keepSamples(
  errand: Errand,
  take: Take,
  { samples, mapped, stale }: Recut,
  update: boolean,
  navigate: (to: string) => void,
): Promise<void> {
  const replaced = update ? mapped : new Map<string, never>();
  const loss = followLossText(followLoss(errand.now, replaced));
  const edit = together(`Make ${plural(samples.length, "sample")}`, [
    ...(replaced.size > 0 ? [replaceSamples(replaced)] : []),
    addSamples(samples),
    dropSamples(stale),
  ]);
  if ((await errand.deliver(edit, `${plural(samples.length, "sample")} of ${take.name}`)) !== "open") return;
  if (replaced.size > 0) {
    tell(
      loss === "" ? "good" : "warning",
      `${plural(replaced.size, "sample")} in use now ${replaced.size === 1 ? "sounds as it is" : "sound as they are"} cut here; loops, starts and tunings went along. ${loss}`.trim(),
      session.undoAction(),
    );
    return;
  }
  // A second take is proposed beside what is on the keys: nothing that is finished goes by it.
  const beside = () => errand.isOpen && playedSamples(errand.now).size > 0;
  const place = () => {
    if (!errand.isOpen) return;
    navigate("/map");
    if (beside()) void proposing.propose(samples);
    else placeAll(samples);
  };
  const label = beside() ? `Propose ${plural(samples.length, "place")} for them` : "Place them on keys";
  tell("good", `${plural(samples.length, "sample was", "samples were")} made of ${take.name}.`, {
    ...{ label, run: place },
    still: () => errand.stillUnplayed(samples),
  });
}
