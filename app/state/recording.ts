import { type Audio, hertzOf, makeSweep, SWEEP } from "../../core/audio";
import { addTake, type Edit, newTake, type Shot, setShots, type Take, together } from "../../core/instrument";
import type { HandsFree } from "../../core/mapping";
import { formatNumber, plural } from "../../core/params";
import { playAlong } from "../audio/bench-player";
import { recorder } from "../audio/recorder";
import { type Cue, ShotSession } from "../audio/shot-session";
import { reasonOf } from "../basis/reason-of";
import { tabs } from "../storage/instrument-locks";
import { listInstruments } from "../storage/library";
import type { RecordingFacts, RecordingInfo } from "../storage/recordings";
import { audioWorker } from "../workers/audio-worker";
import { freeName } from "./copy-name";
import { engine } from "./engine";
import { freshId } from "./ids";
import { tell } from "./notices";
import { openStored } from "./open-instrument";
import { session } from "./session";
import { warnOfSpace } from "./storage-space";
import { setView } from "./view";
import { withProgress } from "./with-progress";

const RATE = 44100;
const MOST_GAPS = 1000;

/** Three ticks, or the tone of a note. */
function cueSound(cue: Cue, shot: Shot): Audio {
  const frames = Math.round(RATE * (cue === "count" ? 1.6 : 1));
  const out = new Float32Array(frames);
  const hertz = hertzOf(shot.note ?? 69);
  for (let i = 0; i < frames; i++) {
    const t = i / RATE;
    if (cue === "tone") out[i] = 0.2 * Math.sin(2 * Math.PI * hertz * t) * Math.min(1, t * 50, (1 - t) * 20);
    else {
      const since = t % 0.5;
      if (t < 1.5) out[i] = 0.25 * Math.sin(2 * Math.PI * 1200 * since) * Math.exp(-60 * since);
    }
  }
  return { rate: RATE, channels: [out] };
}

/** The walk through the shot list, wired to the worker, the speakers and the document. */
export const shotSession = new ShotSession({
  judge: ({ samples }, shot, floor, landed, tolerance) =>
    audioWorker().judge({ rate: recorder.store.getState().rate, channels: [samples] }, shot, floor, landed, tolerance),
  sound: (cue, shot) => void engine.audition(cueSound(cue, shot)),
  gaps: () => recorder.gaps,
  caught: (slices) => recorder.sort(slices),
  changed: (shots) => {
    // What is asked for belongs to the instrument in which it was begun; it gets the rest when the recording ends.
    if (session.instrument?.id === recorder.store.getState().recording?.instrument)
      session.commit(setShots("Record the shot list", shots), "shot-session");
  },
});

let leave: (() => void)[] = [];

const takeNames = (): Set<string> => new Set(session.instrument?.takes.map((t) => t.name) ?? []);
const nextName = (what: string): string => freeName(what, (session.instrument?.takes.length ?? 0) + 1, takeNames());

/** Records under a name that no take has yet; false when it didn't begin. */
async function record(what: string, ready?: () => void): Promise<boolean> {
  const { instrument } = session;
  if (!instrument) return false;
  const began = await recorder.record(freshId(), nextName(what), instrument.id, ready);
  if (began) tabs.say({ type: "recordings" });
  return began;
}

/** Begins to record what comes in. */
export const startRecording = (): Promise<boolean> => record("take");

/** Begins to record, or ends what is recorded. */
export const toggleRecording = (): Promise<unknown> =>
  recorder.store.getState().recording ? stopRecording() : startRecording();

/** Walks the shot list while it records. */
export async function startSession(shots: readonly Shot[], cue: Cue, how: HandsFree): Promise<void> {
  await record("take", () => {
    leave = [recorder.subscribe((chunk) => shotSession.take(chunk))];
    shotSession.start(shots, recorder.store.getState().rate, cue, how);
    if (recorder.bench) leave.push(playAlong(recorder.bench, shotSession.store));
  });
}

/** Plays Vise's sweep into the room and records what comes back; the take is cut off a while after. */
export async function recordSweep(): Promise<void> {
  if (!(await record("sweep"))) return;
  const { rate, recording: mine } = recorder.store.getState();
  if (recorder.bench) recorder.bench.sweep();
  else await engine.audition({ rate, channels: [makeSweep(SWEEP, rate)] });
  const wanted = SWEEP.seconds + 4;
  const stop = recorder.store.subscribe(({ seconds, recording }) => {
    if (recording === mine && seconds < wanted) return;
    stop();
    if (recording === mine) void stopRecording();
  });
}

/** Ends the recording and makes a take of it, with the slices of the shot list where one was walked. */
export async function stopRecording(): Promise<void> {
  if (recorder.store.getState().busy) return;
  for (const stop of leave) stop();
  leave = [];
  const walked = shotSession.store.getState().running;
  const slices = walked ? shotSession.stop() : [];
  const recorded = await recorder.stop();
  if (!recorded) return;
  const { info, facts } = recorded;
  let kept = false;
  try {
    const shots = walked ? shotSession.store.getState().shots : null;
    kept = await keepRecording(info, { ...facts, slices }, shots);
  } catch (error) {
    const why = reasonOf(error);
    tell("error", `${info.name} could not be kept: ${why}. What was recorded is offered again at Take.`);
  } finally {
    await recorder.done(info.id, kept);
    tabs.say({ type: "recordings" });
  }
}

/**
 * Makes a take of a recording, in the instrument in which it was begun, whichever is open; `shots` is what has become of its shot list. False
 * where it can't be: then the recording stays.
 */
export async function keepRecording(
  info: RecordingInfo,
  { clips, gaps, slices }: RecordingFacts,
  shots: readonly Shot[] | null = null,
): Promise<boolean> {
  const stored = await withProgress(`Storing ${info.name}`, (worker) => worker.storeRecording(info));
  if (stored.frames === 0) {
    tell("warning", "Nothing came in, so there is no take.");
    return true;
  }
  // A slice knows what was asked for; how loud and how bright it is, is measured now.
  const measured =
    slices.length === 0
      ? []
      : await withProgress(`Measuring ${plural(slices.length, "sound")} of ${info.name}`, (worker, progress) =>
          worker.measure(stored.sha, slices, progress),
        );
  const filled = slices.map((s, i) => {
    const m = measured?.[i];
    return m ? { ...s, pitch: m.pitch, confidence: m.confidence, peak: m.peak, loudness: m.loudness, tone: m.tone } : s;
  });
  const id = freshId();
  const lost = [...new Set([...gaps, ...stored.holes])].sort((a, b) => a - b);
  const take = newTake({
    id,
    name: info.name,
    ...{ sha: stored.sha, rate: info.rate, channels: stored.channels, frames: stored.frames },
    origin: "recorded",
    date: new Date(info.started).toISOString(),
    source: info.source,
    clips,
    // As many as the document holds: on a very busy computer there are more.
    gaps: lost.slice(0, MOST_GAPS),
    slices: filled,
  });
  const edits: Edit[] = [addTake(take)];
  if (shots) edits.unshift(setShots("Record the shot list", shots));
  if (!(await putInto(info, together(`Add take ${take.name}`, edits)))) return false;
  if (info.instrument === undefined || session.instrument?.id === info.instrument) setView({ takeId: id });
  sayRecorded(take, slices.filter((s) => s.keep).length, stored.holes.length);
  return true;
}

/** Makes an edit in the instrument in which something was recorded: the open one, or one that is stored; where it is gone, in the open one. */
async function putInto({ instrument: id, name }: RecordingInfo, edit: Edit): Promise<boolean> {
  const open = session.instrument;
  const of = id ?? open?.id;
  if (of === undefined) return false;
  let put = await session.putInto(of, edit);
  if (put === "gone" && open) put = await session.putInto(open.id, edit);
  if (put === "open") return true;
  if (put === "stored") {
    const there = (await listInstruments()).find((e) => e.id === of);
    tell("good", `${name} is in “${there?.name ?? "an instrument"}”, where it was begun.`, {
      label: "Open it",
      run: () => void openStored(of),
    });
    return true;
  }
  tell(
    "warning",
    `${name} belongs to an instrument that another tab has open: recover it there, or take it over here.`,
  );
  return false;
}

/** Says what came of a recording, and what is wrong with it. */
function sayRecorded({ name, slices, clips, gaps, rate }: Take, kept: number, holes: number): void {
  const again = slices.length - kept;
  if (slices.length > 0)
    tell(
      "good",
      `${plural(kept, "sound is", "sounds are")} in the take, with note, velocity layer and repeat${again > 0 ? `; ${again} redone` : ""}.`,
    );
  if (clips.length > 0)
    tell(
      "warning",
      `${name} clipped in ${plural(clips.length, "place")}, marked red on the wave: lower the input and record again.`,
    );
  if (holes > 0)
    tell(
      "error",
      `${name}: ${plural(holes, "stretch", "stretches")} could not be stored and ${holes === 1 ? "is" : "are"} silent now.`,
    );
  if (gaps.length > holes)
    tell("warning", `${name}: ${gapNote({ gaps, rate })} Close other programs and record again.`);
  void warnOfSpace();
}

/** Where sound of a recording was lost, for people. */
export function gapNote({ gaps, rate }: Pick<Take, "gaps" | "rate">): string {
  const places = gaps.slice(0, 8).map((at) => formatNumber("seconds", at / rate));
  const more = gaps.length > 8 ? ` and ${gaps.length - 8} more` : "";
  return `Sound was lost at ${places.join(", ")}${more}, because the computer was too busy.`;
}
