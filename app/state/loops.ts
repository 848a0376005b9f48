import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useStore } from "zustand";
import { createStore } from "zustand/vanilla";
import { SURE } from "../../core/analysis";
import { hertzOf } from "../../core/audio";
import {
  changeZones,
  type Flattening,
  type Instrument,
  type Loop,
  listLoopable,
  listSampled,
  type SampledZone,
} from "../../core/instrument";
import { type LoopAnswer, type LoopCandidate, type LoopKind, type LoopWish, loopOfCandidate } from "../../core/looping";
import { plural } from "../../core/params";
import { pointerIsDown } from "../basis/pointer-down";
import { Cancelled, furtherAudioCalls } from "../workers/audio-worker";
import { Errand } from "./errand";
import { tell } from "./notices";
import { session } from "./session";
import { setView } from "./view";
import { withWorkers } from "./with-workers";

/** A worker of its own: a long search keeps nobody waiting who wants to see or hear something. */
const searcher = furtherAudioCalls().of(null);

/** What is wished of loops that are looked for; lengths in seconds, null for what suits the sound. */
export interface LoopWishes {
  readonly kind: LoopKind | "guess";
  readonly shortest: number | null;
  readonly longest: number | null;
  readonly prefer: "any" | "short" | "long";
  /** The zone in which only some frames `[start, end)` are searched; null searches all that zones play. */
  readonly within: { readonly zone: string; readonly start: number; readonly end: number } | null;
}
export const ANY_LOOP: LoopWishes = { kind: "guess", shortest: null, longest: null, prefer: "any", within: null };
export const loopWishes = createStore<LoopWishes>(() => ANY_LOOP);

/** What is asked for a zone: loops within what it plays, of the pitch and the beat that are known, as they are wished. */
function wishOf(zone: SampledZone, samples: Instrument["samples"], wishes: LoopWishes): LoopWish {
  const sample = samples.find((s) => s.sha === zone.sample);
  const note = sample && sample.pitch !== null && sample.confidence >= SURE ? sample.pitch : null;
  const { kind, shortest, longest, prefer, within } = wishes;
  const part = within?.zone === zone.id ? within : zone;
  return {
    ...{ start: Math.max(zone.start, part.start), end: Math.min(zone.end, part.end), note },
    ...(kind === "guess" ? {} : { kind }),
    ...(shortest === null ? {} : { shortest }),
    ...(longest === null ? {} : { longest }),
    ...(prefer === "any" ? {} : { prefer }),
    ...(sample?.beat ? { beat: sample.beat } : {}),
  };
}

/** Settings of all that is asked of the searcher: it is asked once for the same. */
const ONCE = { staleTime: Number.POSITIVE_INFINITY, gcTime: 600000, retry: false } as const;

/** Loops for a zone, best first, once they are found. */
export function useFoundLoops(zone: SampledZone, samples: Instrument["samples"]) {
  const wishes = useStore(loopWishes);
  const wish = wishOf(zone, samples, wishes);
  return useQuery<LoopAnswer>({
    queryKey: ["loops", zone.sample, wish],
    queryFn: () => searcher.findLoops(zone.sample, wish),
    ...ONCE,
  });
}

/** A value once it has stayed as it is for so many milliseconds, and nobody drags anything. */
function useSettled<T>(value: T, after: number): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    let wait: ReturnType<typeof setTimeout>;
    const rest = () => {
      wait = setTimeout(() => (pointerIsDown() ? rest() : setSettled(value)), after);
    };
    rest();
    return () => clearTimeout(wait);
  }, [value, after]);
  return settled;
}

/** What a zone's loop is worth as it is, once it has stayed so for a moment; null while nobody knows. */
export function useJudged(zone: SampledZone, samples: Instrument["samples"]): LoopCandidate | null {
  const loop = useSettled(zone.loop, 250);
  const wish = wishOf(zone, samples, ANY_LOOP);
  const { data } = useQuery<LoopCandidate | null>({
    queryKey: ["judged", zone.sample, wish, loop],
    queryFn: async () => {
      const made = loop ? await searcher.judgeLoop(zone.sample, loop, wish) : null;
      if (loop) judged.set(loop, made?.score ?? null);
      return made;
    },
    enabled: loop !== null,
    ...ONCE,
    gcTime: 20000,
  });
  return loop === zone.loop ? (data ?? null) : null;
}

/** Whether an instrument is still open and a zone's loop in it as it was. */
const isStill = (of: string, zone: SampledZone): boolean =>
  session.instrument?.id === of &&
  listSampled(session.instrument).some((z) => z.id === zone.id && z.loop === zone.loop);

/** Moves one end of a zone's loop to the next place (−1: the one before) at which both sides of the joint run alike. */
export async function moveEnd(zone: SampledZone, which: "start" | "end", by: 1 | -1): Promise<void> {
  const { instrument } = session;
  const { loop } = zone;
  if (!instrument || !loop) return;
  const ends = await searcher.otherEnds(
    zone.sample,
    loop,
    which,
    wishOf(zone, instrument.samples, loopWishes.getState()),
  );
  // What was opened or moved meanwhile isn't what was asked for.
  if (!isStill(instrument.id, zone)) return;
  const at = by === 1 ? ends.find((frame) => frame > loop[which]) : ends.findLast((frame) => frame < loop[which]);
  if (at === undefined) {
    tell("warning", `There is no further place where the loop’s ${which} would fit.`);
    return;
  }
  session.commit(
    changeZones(new Set([zone.id]), `Move the loop’s ${which}`, (z) =>
      z.loop ? { ...z, loop: { ...z.loop, [which]: at } } : z,
    ),
  );
}

/** Keeps a zone's loop even by its sound's level, or no longer. */
export async function keepEven(zone: SampledZone, on: boolean, period: number | null): Promise<void> {
  const errand = Errand.begin("change the loop");
  if (!errand) return;
  const flat = on ? await searcher.levelCurve(zone.sample, zone.start, zone.end, period) : null;
  await errand.deliver(
    changeZones(new Set([zone.id]), on ? "Level out the loop" : "Leave the loop’s level as it is", (z) =>
      z.loop ? { ...z, loop: { ...z.loop, flat } } : z,
    ),
    "The loop that was levelled out",
  );
}

/** How loud the sounds of some zones are from place to place, by the zones' ids; null where it was cancelled. A sound that is missing has none. */
export async function levelCurves(
  zones: readonly SampledZone[],
  placeOf: (zone: SampledZone) => { readonly rate: number; readonly note: number | null },
): Promise<ReadonlyMap<string, Flattening> | null> {
  const { results, cancelled } = await withWorkers(
    `Measuring ${plural(zones.length, "zone")}`,
    zones,
    async (worker, zone): Promise<Flattening | null> => {
      const { rate, note } = placeOf(zone);
      try {
        return await worker.levelCurve(zone.sample, zone.start, zone.end, note === null ? null : rate / hertzOf(note));
      } catch (error) {
        if (error instanceof Cancelled) throw error;
        return null;
      }
    },
  );
  if (cancelled) return null;
  return new Map(zones.flatMap((zone, i) => (results[i] ? [[zone.id, results[i]] as const] : [])));
}

/** Gives a zone a loop that was found. */
export function takeLoop(zone: SampledZone, candidate: LoopCandidate): void {
  session.commit(
    changeZones(new Set([zone.id]), "Take a loop that was found", (z) => ({ ...z, loop: loopOfCandidate(candidate) })),
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

/** Whether a zone's loop is a candidate, whatever has become of its crossfade. */
export const isTaken = ({ loop }: SampledZone, { start, end, mode, flat }: LoopCandidate): boolean =>
  loop !== null &&
  loop.start === start &&
  loop.end === end &&
  loop.mode === mode &&
  (loop.flat === null) === (flat === null);

/** Loops that were judged as they are, by themselves: an edit makes another of them. null: nothing can be said of it. */
const judged = new WeakMap<Loop, number | null>();

/** Whether nobody has judged a zone's loop yet. */
export const isUnjudged = (zone: SampledZone, found: FoundLoops): boolean =>
  zone.loop !== null && scoreOf(zone, found) === null && !judged.has(zone.loop);

/** The score of a zone's loop: as it was found, or as it was judged; −1 where none was found and there is none. null: nobody has judged what is there. */
export function scoreOf(zone: SampledZone, found: FoundLoops): number | null {
  const best = found.get(zone.id);
  if (best && isTaken(zone, best) && zone.loop?.fade === best.crossfade) return best.score;
  if (best === null && !zone.loop) return -1;
  return (zone.loop && judged.get(zone.loop)) ?? null;
}

/** Judges the loops of all zones as they are. */
export async function judgeAll(): Promise<void> {
  const { instrument } = session;
  if (!instrument) return;
  const found = foundLoops.getState().of;
  const zones = listSampled(instrument).filter((z) => isUnjudged(z, found));
  if (zones.length === 0) return;
  await withWorkers(`Judging ${plural(zones.length, "loop")}`, zones, async (worker, zone) => {
    if (!zone.loop) return;
    try {
      const made = await worker.judgeLoop(zone.sample, zone.loop, wishOf(zone, instrument.samples, ANY_LOOP));
      judged.set(zone.loop, made?.score ?? null);
    } catch (error) {
      if (error instanceof Cancelled) throw error;
    }
  });
  // Whoever looks at scores is told.
  foundLoops.setState(({ of }) => ({ of: new Map(of) }));
}

/** Lowest score of a loop that is taken unseen; a poorer one is shown, and taken by whoever wants it. */
const GOOD_ENOUGH = 40;

/**
 * Finds loops for all zones that may have one and have none, or, with `anew`, for all that may; the best of each is taken, in one undo step, where it is
 * good enough. Loops that are there aren't touched unless that is asked for.
 */
export async function findForAll(anew = false): Promise<void> {
  const errand = Errand.begin("find loops");
  if (!errand) return;
  const { instrument } = errand;
  const all = listLoopable(instrument);
  const zones = anew ? all : all.filter((z) => z.loop === null);
  if (all.length === 0) {
    tell("warning", "No zone here can sound without end: all play to their end, or at the release of a key.");
    return;
  }
  if (zones.length === 0) {
    tell("warning", `All ${plural(all.length, "zone")} that can have a loop have one: nothing was changed.`, {
      label: `Find ${plural(all.length, "loop")} anew`,
      run: () => void findForAll(true),
    });
    return;
  }
  const { results, cancelled } = await withWorkers(
    `Finding loops for ${plural(zones.length, "zone")}`,
    zones,
    async (worker, zone): Promise<LoopAnswer | null> => {
      try {
        return await worker.findLoops(zone.sample, wishOf(zone, instrument.samples, loopWishes.getState()));
      } catch (error) {
        if (error instanceof Cancelled) throw error;
        // Such as a sample whose sound is missing: the others are searched all the same.
        return null;
      }
    },
  );
  const best = new Map<string, LoopCandidate>();
  const found = new Map(errand.isOpen ? foundLoops.getState().of : []);
  let [none, poor] = [0, 0];
  zones.forEach((zone, i) => {
    const answer = results[i];
    if (answer === undefined) return;
    const first = answer?.candidates[0];
    found.set(zone.id, first ?? null);
    if (!first) none++;
    else if (first.score < GOOD_ENOUGH) poor++;
    else best.set(zone.id, first);
  });
  if (errand.isOpen) foundLoops.setState({ of: found });
  const rest = [
    none > 0 ? `${plural(none, "zone has", "zones have")} none: at each it says why.` : "",
    poor > 0
      ? `For ${plural(poor, "zone")} the best scores below ${GOOD_ENOUGH} and was not taken: it is shown at ${poor === 1 ? "it" : "each"}.`
      : "",
  ].filter((r) => r !== "");
  if (best.size === 0) {
    if (!cancelled) tell("warning", poor > 0 ? rest.join(" ") : "No loop was found: at each zone it says why.");
    return;
  }
  const before = new Map(zones.map((zone) => [zone.id, zone.loop]));
  const edit = changeZones(new Set(best.keys()), "Find loops", (zone) => {
    const taken = best.get(zone.id);
    // What somebody has looped by hand meanwhile stays.
    return taken && zone.loop === before.get(zone.id) ? { ...zone, loop: loopOfCandidate(taken) } : zone;
  });
  const delivered = await errand.deliver(edit, plural(best.size, "loop"), anew ? "finding loops again" : null);
  if (delivered !== "open") return;
  // The one that needs a look most comes first, where somebody waits for it.
  const [worst] = errand.isAwaited ? worstFirst(listLoopable(errand.now), found) : [];
  if (worst) setView({ zoneIds: new Set([worst.id]) });
  const lowest = Math.min(...[...best.values()].map((c) => c.score));
  tell(
    "good",
    `${plural(best.size, "loop")} found${cancelled ? ", before it was stopped" : ""}; the lowest score is ${lowest}. ${rest.join(" ")} They stand worst first.`.replace(
      "  ",
      " ",
    ),
    session.undoAction(),
  );
}

/** Zones in the order in which their loops are worth a look: those with none first, then by score; then those that nobody has judged, as they stand. */
export function worstFirst(zones: readonly SampledZone[], found: FoundLoops): readonly SampledZone[] {
  const scores = new Map(zones.map((zone) => [zone.id, scoreOf(zone, found) ?? 101]));
  return [...zones].sort((a, b) => (scores.get(a.id) ?? 0) - (scores.get(b.id) ?? 0));
}
