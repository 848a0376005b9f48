import { type Audio, hertzOf, makeSweep, SWEEP } from "../../core/audio";
import { addTake, newTake, type Shot, type Slice, setShots, type Take } from "../../core/instrument";
import { formatNumber } from "../../core/params";
import { playAlong } from "../audio/bench-player";
import { engine } from "../audio/engine";
import { type Recorded, recorder } from "../audio/recorder";
import { type Cue, ShotSession } from "../audio/shot-session";
import { plural } from "../widgets/plural";
import { audioWorker, withProgress } from "../workers/audio-worker";
import { freshId } from "./ids";
import { tell } from "./notices";
import { session } from "./session";
import { warnOfSpace } from "./storage-space";
import { setView } from "./view";

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
  judge: ({ samples }, shot, floor, landed) =>
    audioWorker().judge({ rate: recorder.store.getState().rate, channels: [samples] }, shot, floor, landed),
  sound: (cue, shot) => void engine.audition(cueSound(cue, shot)),
  gaps: () => recorder.gaps,
  caught: (slices) => recorder.sort(slices),
  changed: (shots) => session.commit(setShots("Record the shot list", shots), "shot-session"),
});

let leave: (() => void)[] = [];

/** Opens the input where it isn't yet; false when it can't be. */
async function opened(): Promise<boolean> {
  if (!recorder.store.getState().open) await recorder.open();
  return recorder.store.getState().open;
}

const nextName = (): string => `take ${(session.instrument?.takes.length ?? 0) + 1}`;

/** Begins to record what comes in. */
export async function startRecording(): Promise<void> {
  if (await opened()) await recorder.record(freshId(), nextName());
}

/** Walks the shot list while it records. */
export async function startSession(shots: readonly Shot[], cue: Cue): Promise<void> {
  if (!(await opened())) return;
  leave = [recorder.subscribe((chunk) => shotSession.take(chunk))];
  shotSession.start(shots, recorder.store.getState().rate, cue);
  if (recorder.bench) leave.push(playAlong(recorder.bench, shotSession.store));
  await recorder.record(freshId(), nextName());
}

/** Plays Vise's sweep into the room and records what comes back; the take is cut off a while after. */
export async function recordSweep(): Promise<void> {
  if (!(await opened())) return;
  await recorder.record(freshId(), `sweep ${(session.instrument?.takes.length ?? 0) + 1}`);
  const { rate } = recorder.store.getState();
  if (recorder.bench) recorder.bench.sweep();
  else await engine.audition({ rate, channels: [makeSweep(SWEEP, rate)] });
  const wanted = SWEEP.seconds + 4;
  const stop = recorder.store.subscribe(({ seconds, recording }) => {
    if (recording && seconds < wanted) return;
    stop();
    if (recording) void stopRecording();
  });
}

/** Ends the recording and makes a take of it, with the slices of the shot list where one was walked. */
export async function stopRecording(): Promise<void> {
  for (const stop of leave) stop();
  leave = [];
  const slices = shotSession.store.getState().running ? shotSession.stop() : [];
  const recorded = await recorder.stop();
  if (!recorded) return;
  if ((recorded.channels[0]?.length ?? 0) === 0) tell("doubt", "Nothing came in, so there is no take.");
  else {
    try {
      await keepRecording(recorded, slices);
    } catch (error) {
      const why = error instanceof Error ? error.message : String(error);
      tell(
        "error",
        `${recorded.info.name} could not be kept: ${why}. What was recorded is offered again at the next start.`,
      );
      return;
    }
  }
  await recorder.forget(recorded.info.id);
}

/** One channel where both hold the very same sound, as a microphone's often do. */
function withoutTwin(channels: Float32Array<ArrayBuffer>[]): Float32Array<ArrayBuffer>[] {
  const [left, right] = channels;
  return left && right && left.every((x, i) => x === right[i]) ? [left] : channels;
}

/** Turns a recording into a take. */
export async function keepRecording(recorded: Recorded, slices: readonly Slice[] = []): Promise<void> {
  const { info, clips, gaps } = recorded;
  const channels = withoutTwin(recorded.channels);
  const stored = await audioWorker().store(channels, info.rate);
  // A slice knows what was asked for; how loud and how bright it is, is measured now.
  const measured = await withProgress(`Measuring ${slices.length} sounds of ${info.name}`, (worker, progress) =>
    worker.measure(stored.sha, slices, progress),
  );
  const filled = slices.map((s, i) => {
    const m = measured?.[i];
    return m ? { ...s, pitch: m.pitch, confidence: m.confidence, peak: m.peak, loudness: m.loudness, tone: m.tone } : s;
  });
  const id = freshId();
  session.commit(
    addTake(
      newTake({
        id,
        name: info.name,
        ...{ sha: stored.sha, rate: info.rate, channels: stored.channels, frames: stored.frames },
        origin: "recorded",
        date: new Date(info.started).toISOString(),
        source: info.source,
        clips,
        // As many as the document holds: on a very busy computer there are more.
        gaps: gaps.slice(0, MOST_GAPS),
        slices: filled,
      }),
    ),
  );
  setView({ takeId: id });
  const kept = slices.filter((s) => s.keep).length;
  const again = slices.length - kept;
  if (slices.length > 0)
    tell(
      "good",
      `${plural(kept, "sound is", "sounds are")} in the take, with note, strength and repeat${again > 0 ? `; ${again} struck again` : ""}.`,
    );
  if (clips.length > 0)
    tell(
      "doubt",
      `${info.name} clipped in ${plural(clips.length, "place")}, marked red on the wave: lower the input and record again.`,
    );
  if (gaps.length > 0)
    tell("doubt", `${info.name}: ${gapNote({ gaps, rate: info.rate })} Close other programs and record again.`);
  void warnOfSpace();
}

/** Where sound of a recording was lost, for people. */
export function gapNote({ gaps, rate }: Pick<Take, "gaps" | "rate">): string {
  const places = gaps.slice(0, 8).map((at) => formatNumber("seconds", at / rate));
  const more = gaps.length > 8 ? ` and ${gaps.length - 8} more` : "";
  return `Sound was lost at ${places.join(", ")}${more}, because the computer was too busy.`;
}
