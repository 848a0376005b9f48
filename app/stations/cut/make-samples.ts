import { addSamples, type Take } from "../../../core/instrument";
import { tell } from "../../state/notices";
import { placeAll } from "../../state/placing";
import { session } from "../../state/session";
import { Cancelled, withProgress } from "../../workers/audio-worker";

/** Cuts the kept slices of a take out as samples of the instrument, and offers to place them. */
export async function makeSamples(take: Take, navigate: (to: string) => void): Promise<void> {
  try {
    const samples = await withProgress(`Cutting ${take.name}`, (worker, progress) =>
      worker.makeSamples(take, progress),
    );
    session.commit(addSamples(samples));
    const place = () => {
      placeAll(samples);
      navigate("/map");
    };
    tell("good", `${samples.length} samples were made of ${take.name}.`, { label: "Place them on keys", run: place });
  } catch (error) {
    if (!(error instanceof Cancelled))
      tell("error", `${take.name} was not cut: ${error instanceof Error ? error.message : String(error)}.`);
  }
}
