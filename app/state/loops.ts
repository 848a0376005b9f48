import { useQuery } from "@tanstack/react-query";
import { createStore } from "zustand/vanilla";
import { SURE } from "../../core/analysis";
import { changeZones, type Instrument, listSampled, newLoop, type SampledZone } from "../../core/instrument";
import type { LoopAnswer, LoopCandidate, LoopWish } from "../../core/looping";
import { plural } from "../../core/params";
import { Cancelled, furtherAudioCalls } from "../workers/audio-worker";
import { tell } from "./notices";
import { session } from "./session";
import { setView } from "./view";
import { withWorkers } from "./with-workers";

/** A worker of its own: a long search keeps nobody waiting who wants to see or hear something. */
const searcher = furtherAudioCalls().of(null);

/** What is asked for a zone: loops within what it plays, of the pitch that was measured. */
function wishOf(zone: SampledZone, samples: Instrument["samples"]): LoopWish {
  const sample = samples.find((s) => s.sha === zone.sample);
  const note = sample && sample.pitch !== null && sample.confidence >= SURE ? sample.pitch : null;
  return { start: zone.start, end: zone.end, note };
}

/** Loops for a zone, best first, once they are found. */
export function useFoundLoops(zone: SampledZone, samples: Instrument["samples"]) {
  const wish = wishOf(zone, samples);
  return useQuery<LoopAnswer>({
    queryKey: ["loops", zone.sample, wish.start, wish.end, wish.note],
    queryFn: () => searcher.findLoops(zone.sample, wish),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 600000,
    retry: false,
  });
}

/** A candidate as a zone's loop. */
const loopOf = ({ start, end, mode, crossfade, law }: LoopCandidate) =>
  newLoop({ start, end, mode, fade: crossfade, law });

/** Gives a zone a loop that was found. */
export function takeLoop(zone: SampledZone, candidate: LoopCandidate): void {
  session.commit(
    changeZones(new Set([zone.id]), "Take a loop that was found", (z) => ({ ...z, loop: loopOf(candidate) })),
  );
}

/** What was found for many zones, by the zones' ids: the best candidate, or null where there is none. */
type FoundLoops = ReadonlyMap<string, LoopCandidate | null>;
export const foundLoops = createStore<{ readonly of: FoundLoops }>(() => ({ of: new Map() }));

// Zones of another instrument may have the same ids.
session.store.subscribe((state, before) => {
  if (state.history?.present.id !== before.history?.present.id && foundLoops.getState().of.size > 0)
    foundLoops.setState({ of: new Map() });
});

/** Whether a zone's loop is a candidate as it was found. */
export const isTaken = ({ loop }: SampledZone, { start, end }: LoopCandidate): boolean =>
  loop !== null && loop.start === start && loop.end === end;

/** The score of a zone's loop, as long as it is as it was found; −1 where none was found and there is none. null: nobody has judged what is there. */
export function scoreOf(zone: SampledZone, found: FoundLoops): number | null {
  const best = found.get(zone.id);
  if (best === undefined) return null;
  if (best === null) return zone.loop ? null : -1;
  return isTaken(zone, best) ? best.score : null;
}

/** Finds loops for all zones that have none, or for all where each has one; the best of each is taken, in one undo step. */
export async function findForAll(): Promise<void> {
  const { instrument } = session;
  if (!instrument) return;
  const all = listSampled(instrument);
  const without = all.filter((z) => z.loop === null);
  const zones = without.length > 0 ? without : all;
  const { results, cancelled } = await withWorkers(
    `Finding loops for ${plural(zones.length, "zone")}`,
    zones,
    async (worker, zone): Promise<LoopAnswer | null> => {
      try {
        return await worker.findLoops(zone.sample, wishOf(zone, instrument.samples));
      } catch (error) {
        if (error instanceof Cancelled) throw error;
        // Such as a sample whose sound is missing: the others are searched all the same.
        return null;
      }
    },
  );
  const best = new Map<string, LoopCandidate>();
  const found = new Map(foundLoops.getState().of);
  let none = 0;
  zones.forEach((zone, i) => {
    const answer = results[i];
    if (answer === undefined) return;
    const first = answer?.candidates[0];
    found.set(zone.id, first ?? null);
    if (first) best.set(zone.id, first);
    else none++;
  });
  // Whatever was opened meanwhile isn't what was asked for.
  if (session.instrument?.id !== instrument.id) return;
  foundLoops.setState({ of: found });
  if (best.size === 0) {
    if (!cancelled) tell("doubt", "No loop was found: at each zone it says why.");
    return;
  }
  session.commit(
    changeZones(new Set(best.keys()), "Find loops", (zone) => {
      const taken = best.get(zone.id);
      return taken ? { ...zone, loop: loopOf(taken) } : zone;
    }),
  );
  // The one that needs a look most comes first.
  const [worst] = worstFirst(listSampled(session.instrument ?? instrument), found);
  if (worst) setView({ zoneIds: new Set([worst.id]) });
  const lowest = Math.min(...[...best.values()].map((c) => c.score));
  tell(
    "good",
    `${plural(best.size, "loop")} found${cancelled ? ", before it was stopped" : ""}; the lowest score is ${lowest}.${none > 0 ? ` ${plural(none, "zone has", "zones have")} none: at each it says why.` : ""} They stand worst first.`,
    { label: "Undo", run: session.undoer() },
  );
}

/** Zones in the order in which their loops are worth a look: those with none first, then by score; then those that nobody has judged, as they stand. */
export function worstFirst(zones: readonly SampledZone[], found: FoundLoops): readonly SampledZone[] {
  if (found.size === 0) return zones;
  const scores = new Map(zones.map((zone) => [zone.id, scoreOf(zone, found) ?? 101]));
  return [...zones].sort((a, b) => (scores.get(a.id) ?? 0) - (scores.get(b.id) ?? 0));
}
