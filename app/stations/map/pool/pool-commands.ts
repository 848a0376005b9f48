import {
  followLoss,
  followLossText,
  listNotes,
  listZones,
  removeSamples,
  replaceSamples,
  type Sample,
} from "../../../../core/instrument";
import { plural } from "../../../../core/params";
import { audition } from "../../../state/audio-queries";
import type { Command } from "../../../state/commands";
import { pathOf } from "../../../state/dropped-files";
import { Errand } from "../../../state/errand";
import { layFrom } from "../../../state/laying";
import { tell } from "../../../state/notices";
import { openSound } from "../../../state/open-sound";
import { pickFiles, SOUND_FILES } from "../../../state/pick-files";
import { proposing } from "../../../state/proposing";
import { findMissing } from "../../../state/relinking";
import { session } from "../../../state/session";
import { setView, useView } from "../../../state/view";
import { withProgress } from "../../../state/with-progress";
import { Cancelled } from "../../../workers/audio-worker";

/** The samples that are chosen in the pool, in its order. */
export function chosenSamples(): readonly Sample[] {
  const { sampleIds } = useView.getState();
  return session.instrument ? listNotes(session.instrument).filter((s) => sampleIds.has(s.sha)) : [];
}

const some = () => (chosenSamples().length > 0 ? null : "select a sample in the pool first");

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
    session.undoAction(),
  );
}

/** Puts the sound of a file in the place of the chosen sample, in every zone that plays it. */
async function replace(): Promise<void> {
  const [sample] = chosenSamples();
  const [file] = sample ? await pickFiles({ accept: SOUND_FILES }) : [];
  const errand = file && Errand.begin("replace a sample");
  if (!sample || !file || !errand) return;
  try {
    const opened = await withProgress(`Opening ${file.name}`, (worker) => openSound(worker, file, pathOf(file), true));
    if (!opened.ok) tell("error", `${file.name} was not opened: ${opened.message}.`);
    else if (opened.kind === "sample") {
      const pairs = new Map([[sample.sha, opened.sample]]);
      const loss = followLossText(followLoss(errand.now, pairs));
      if ((await errand.deliver(replaceSamples(pairs), `${opened.sample.name} for ${sample.name}`)) !== "open") return;
      setView({ sampleIds: new Set([opened.sample.sha]) });
      tell(
        loss === "" ? "good" : "warning",
        `${sample.name} is ${opened.sample.name} now, in every zone. ${loss}`.trim(),
        session.undoAction(),
      );
    }
  } catch (error) {
    if (!(error instanceof Cancelled)) throw error;
  }
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
    run: () => layFrom(chosenSamples(), { key: freeKey(), step: "all", target: new Set() }),
  },
  {
    id: "lay-white",
    label: "Lay them on the white keys above",
    why: some,
    run: () => layFrom(chosenSamples(), { key: freeKey(), step: "white", target: new Set() }),
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
  {
    id: "replace-sample",
    label: "Replace by a file …",
    why: () => (chosenSamples().length === 1 ? null : "select one sample in the pool first"),
    run: () => void replace(),
  },
  { id: "find-missing", label: "Find missing samples in a folder …", run: () => void findMissing() },
  { id: "remove-samples", label: "Remove from the instrument", why: some, run: remove },
];
