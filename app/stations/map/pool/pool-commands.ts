import { listNotes, listZones, removeSamples, type Sample } from "../../../../core/instrument";
import { plural } from "../../../../core/params";
import { audition } from "../../../state/audio-queries";
import type { Command } from "../../../state/commands";
import { layFrom } from "../../../state/laying";
import { tell } from "../../../state/notices";
import { proposing } from "../../../state/proposing";
import { session } from "../../../state/session";
import { setView, useView } from "../../../state/view";

/** The samples that are chosen in the pool, in its order. */
export function chosenSamples(): readonly Sample[] {
  const { sampleIds } = useView.getState();
  return session.instrument ? listNotes(session.instrument).filter((s) => sampleIds.has(s.sha)) : [];
}

const some = () => (chosenSamples().length > 0 ? null : "choose a sample in the pool first");

/** The lowest key above all that is mapped; middle C where nothing is. */
function freeKey(): number {
  const zones = session.instrument ? listZones(session.instrument) : [];
  const top = zones.reduce((most, z) => Math.max(most, z.keyHigh), -1);
  return top < 0 || top >= 127 ? 60 : top + 1;
}

function remove(): void {
  const samples = chosenSamples();
  const shas = new Set(samples.map((s) => s.sha));
  const zones = session.instrument ? listZones(session.instrument).filter((z) => shas.has(z.sample ?? "")).length : 0;
  session.commit(removeSamples(shas));
  setView({ sampleIds: new Set() });
  tell(
    "good",
    `${plural(samples.length, "sample")} removed${zones > 0 ? `, and ${plural(zones, "zone")} with them` : ""}.`,
    {
      label: "Undo",
      run: session.undoer(),
    },
  );
}

/** What can be done with samples of the pool: those that are chosen. */
export const POOL_COMMANDS: readonly Command[] = [
  {
    id: "hear-sample",
    label: "Hear the sample",
    why: some,
    run: () => {
      const [sample] = chosenSamples();
      if (sample) void audition(sample.sha, 0, sample.frames);
    },
  },
  {
    id: "propose-samples",
    label: "Propose places for them",
    why: some,
    run: () => void proposing.propose(chosenSamples()),
  },
  {
    id: "lay-samples",
    label: "Lay them on the keys above, a key each",
    why: some,
    run: () => layFrom(chosenSamples(), freeKey(), "all"),
  },
  {
    id: "lay-white",
    label: "Lay them on the white keys above",
    why: some,
    run: () => layFrom(chosenSamples(), freeKey(), "white"),
  },
  {
    id: "find-zones",
    label: "Select the zones that play them",
    why: some,
    run: () => {
      const shas = new Set(chosenSamples().map((s) => s.sha));
      const zones = session.instrument ? listZones(session.instrument) : [];
      setView({ zoneIds: new Set(zones.filter((z) => shas.has(z.sample ?? "")).map((z) => z.id)), mapSide: "zones" });
    },
  },
  { id: "remove-samples", label: "Remove from the instrument", why: some, run: remove },
];
