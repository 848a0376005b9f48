import { SURE } from "../../../core/analysis";
import {
  changeZones,
  type Flattening,
  listSampled,
  type Sample,
  type SampledZone,
  type Zone,
} from "../../../core/instrument";
import { copiedLoop, type LoopCopyBy, type LoopPlace } from "../../../core/looping";
import { plural } from "../../../core/params";
import type { Command } from "../../state/commands";
import { levelCurves } from "../../state/loops";
import { tell } from "../../state/notices";
import { session } from "../../state/session";

const placeOf = (zone: Zone, sample: Sample | undefined): LoopPlace => ({
  zone,
  rate: sample?.rate ?? 44100,
  note: sample && sample.pitch !== null && sample.confidence >= SURE ? sample.pitch : null,
});

/** Gives a zone's loop to all other zones; where it is kept even, they are by their own levels. */
async function copyToAll(from: SampledZone, by: LoopCopyBy): Promise<void> {
  const { instrument } = session;
  const { loop } = from;
  if (!instrument || !loop) return;
  const samples = new Map(instrument.samples.map((s) => [s.sha, s]));
  const others = listSampled(instrument).filter((z) => z.id !== from.id);
  const own = placeOf(from, samples.get(from.sample));
  const curves = loop.flat ? await levelCurves(others, (zone) => placeOf(zone, samples.get(zone.sample))) : new Map();
  // Whatever was opened meanwhile isn't what was asked for.
  if (!curves || session.instrument?.id !== instrument.id) return;
  session.commit(
    changeZones(new Set(others.map((z) => z.id)), "Copy a loop", (zone) => {
      const copy = copiedLoop(loop, own, placeOf(zone, samples.get(zone.sample ?? "")), by);
      const curve: Flattening | undefined = curves.get(zone.id);
      return { ...zone, loop: curve && loop.flat ? { ...copy, flat: { ...curve, amount: loop.flat.amount } } : copy };
    }),
  );
  tell("good", `The loop was copied to ${plural(others.length, "zone")}.`, { label: "Undo", run: session.undoer() });
}

/** What can be done with the loop of a zone, and with those of all. */
export function loopCommands(zone: SampledZone): readonly Command[] {
  const without = () => (zone.loop ? null : "this zone has no loop");
  const copy = (by: LoopCopyBy, label: string): Command => ({
    id: `copy-${by}`,
    label,
    why: without,
    run: () => void copyToAll(zone, by),
  });
  return [
    copy("time", "Copy the loop to all zones, at the same times"),
    copy("periods", "Copy the loop to all zones, for as many periods"),
    copy("share", "Copy the loop to all zones, at the same place of each"),
    {
      id: "clear",
      label: "Clear the loop",
      why: without,
      run: () => session.commit(changeZones(new Set([zone.id]), "Clear the loop", (z) => ({ ...z, loop: null }))),
    },
    {
      id: "clear-all",
      label: "Clear the loops of all zones",
      run: () => {
        const looped = session.instrument ? listSampled(session.instrument).filter((z) => z.loop) : [];
        if (looped.length === 0) return;
        session.commit(
          changeZones(new Set(looped.map((z) => z.id)), "Clear loops", (z) => ({
            ...z,
            loop: null,
            releaseLoop: null,
          })),
        );
        tell("good", `${plural(looped.length, "loop")} cleared.`, { label: "Undo", run: session.undoer() });
      },
    },
  ];
}
