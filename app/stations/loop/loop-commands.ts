import { SURE } from "../../../core/analysis";
import {
  changeZones,
  type Flattening,
  listLoopable,
  listSampled,
  type Sample,
  type SampledZone,
  type Zone,
} from "../../../core/instrument";
import { copiedLoop, type LoopCopyBy, type LoopPlace } from "../../../core/looping";
import { plural } from "../../../core/params";
import type { Command } from "../../state/commands";
import { Errand } from "../../state/errand";
import { levelCurves } from "../../state/loops";
import { tell } from "../../state/notices";
import { session } from "../../state/session";

const placeOf = (zone: Zone, sample: Sample | undefined): LoopPlace => ({
  zone,
  rate: sample?.rate ?? 44100,
  note: sample && sample.pitch !== null && sample.confidence >= SURE ? sample.pitch : null,
});

/** Gives a zone's loop to the other zones of its layer that may have one; where it is kept even, they are by their own levels. */
async function copyToAll(from: SampledZone, by: LoopCopyBy): Promise<void> {
  const errand = Errand.begin("copy the loop");
  const { loop } = from;
  if (!errand || !loop) return;
  const { instrument } = errand;
  const samples = new Map(instrument.samples.map((s) => [s.sha, s]));
  const layer = instrument.layers.find((l) => l.groups.some((g) => g.zones.some((z) => z.id === from.id)));
  const others = listLoopable(instrument, layer?.id ?? null).filter((z) => z.id !== from.id);
  if (others.length === 0) {
    tell("warning", "There is no other zone in its layer that may have a loop.");
    return;
  }
  const own = placeOf(from, samples.get(from.sample));
  const curves = loop.flat ? await levelCurves(others, (zone) => placeOf(zone, samples.get(zone.sample))) : new Map();
  if (!curves) return;
  const edit = changeZones(new Set(others.map((z) => z.id)), "Copy a loop", (zone) => {
    const copy = copiedLoop(loop, own, placeOf(zone, samples.get(zone.sample ?? "")), by);
    const curve: Flattening | undefined = curves.get(zone.id);
    return { ...zone, loop: curve && loop.flat ? { ...copy, flat: { ...curve, amount: loop.flat.amount } } : copy };
  });
  if ((await errand.deliver(edit, `The loop of ${plural(others.length, "zone")}`)) !== "open") return;
  const looped = others.filter((z) => z.loop).length;
  const gone = looped > 0 ? `; ${plural(looped, "loop")} of their own went by it` : "";
  tell("good", `The loop was copied to ${plural(others.length, "zone")}${gone}.`, session.undoAction());
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
    copy("time", "Copy the loop to all zones of its layer, at the same times"),
    copy("periods", "Copy the loop to all zones of its layer, for as many periods"),
    copy("share", "Copy the loop to all zones of its layer, at the same place of each"),
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
        tell("good", `${plural(looped.length, "loop")} cleared.`, session.undoAction());
      },
    },
  ];
}
