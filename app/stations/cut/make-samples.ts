import { namesOfSlices } from "../../../core/formats";
import { addSamples, type Edit, playedSamples, replaceSamples, type Take, together } from "../../../core/instrument";
import { plural } from "../../../core/params";
import { tell } from "../../state/notices";
import { placeAll } from "../../state/placing";
import { session } from "../../state/session";
import { withProgress } from "../../state/with-progress";
import { Cancelled } from "../../workers/audio-worker";
import { type Recut, recutOf } from "./recut";

/** Cuts the kept slices of a take out as samples; null when it was cancelled or failed. */
export async function cutSamples(take: Take): Promise<Recut | null> {
  const { instrument } = session;
  if (!instrument) return null;
  const kept = take.slices.filter((s) => s.keep);
  const names = namesOfSlices(instrument.naming, take, kept);
  try {
    const fresh = await withProgress(`Cutting ${take.name}`, (worker, progress) =>
      worker.makeSamples(take, kept, names, progress),
    );
    const played = playedSamples(instrument);
    return recutOf(take, fresh, instrument.samples, played);
  } catch (error) {
    if (!(error instanceof Cancelled))
      tell("error", `${take.name} was not cut: ${error instanceof Error ? error.message : String(error)}.`);
    return null;
  }
}

/** Puts cut samples into the instrument; `update` also puts them in the place of those that zones play. */
export function keepSamples(
  take: Take,
  { samples, mapped }: Recut,
  update: boolean,
  navigate: (to: string) => void,
): void {
  const edits: Edit[] = [addSamples(samples)];
  if (update && mapped.size > 0) edits.push(replaceSamples(mapped));
  session.commit(together(`Make ${plural(samples.length, "sample")}`, edits));
  if (update && mapped.size > 0) {
    tell(
      "good",
      `${plural(mapped.size, "sample")} on the keys now ${mapped.size === 1 ? "sounds as it is" : "sound as they are"} cut here.`,
      {
        label: "Undo",
        run: session.undoer(),
      },
    );
    return;
  }
  // What is mapped already stays among what is placed: a second take adds to the first one's map.
  const onKeys = session.instrument ? playedSamples(session.instrument) : new Set<string>();
  const before =
    session.instrument?.samples.filter((s) => onKeys.has(s.sha) && !samples.some((n) => n.sha === s.sha)) ?? [];
  const place = () => {
    placeAll([...before, ...samples]);
    navigate("/map");
  };
  const label = before.length > 0 ? `Place all ${before.length + samples.length} on keys` : "Place them on keys";
  tell("good", `${plural(samples.length, "sample was", "samples were")} made of ${take.name}.`, { label, run: place });
}
