import { describe, expect, test } from "@jest/globals";
import { hertzOf, seededRandom } from "../../core/audio";
import type { Slice } from "../../core/instrument";
import { judgeShot, makeShots } from "../../core/mapping";
import { mistakeAt, strokeFor } from "./bench-player";
import { chooseChannels } from "./channel-choice";
import { ShotSession } from "./shot-session";

const RATE = 8000;

/** A session whose input is a room in which a note can be struck; sounds are judged as they come in. */
function studio() {
  const random = seededRandom(4);
  const cues: string[] = [];
  let told = 0;
  const gaps: number[] = [];
  let frames = 0;
  let known: readonly Slice[] = [];
  const session = new ShotSession({
    judge: async ({ samples }, shot, floor, landed) =>
      judgeShot({ rate: RATE, channels: [samples] }, shot, floor, landed),
    sound: (cue, shot) => cues.push(`${cue} ${shot.name}`),
    gaps: () => gaps,
    caught: (slices) => {
      known = slices;
    },
    changed: () => told++,
  });
  const play = async (seconds: number, note: number | null = null, level = 0.3) => {
    const step = note === null ? 0 : (2 * Math.PI * hertzOf(note)) / RATE;
    const x = Float32Array.from(
      { length: Math.round(seconds * RATE) },
      (_, i) => level * Math.sin(i * step) * Math.exp((-8 * i) / RATE) + (random() - 0.5) * 0.001,
    );
    frames += x.length;
    for (let at = 0; at < x.length; at += 800) session.take([x.slice(at, at + 800)]);
    // What was judged meanwhile is settled.
    await Promise.resolve();
    await Promise.resolve();
    await Promise.resolve();
  };
  /** Sound was lost, so many seconds ago. */
  const lose = (ago: number) => gaps.push(frames - Math.round(ago * RATE));
  return { session, play, lose, known: () => known, cues, told: () => told };
}

describe("walking a shot list", () => {
  const shots = makeShots({ notes: [60, 64], strengths: 1, repeats: 1 });

  test("a good sound goes on to the next; a wrong one asks again; all sounds become slices that know what they are", async () => {
    const { session, play, told, known } = studio();
    session.start(shots, RATE, "none");
    await play(1);
    expect(session.store.getState()).toMatchObject({ state: "waiting", attempt: 0 });
    await play(1.4, 60);
    expect(session.store.getState().shot?.name).toBe("E4");
    expect(session.store.getState().verdict?.problems).toEqual([]);
    await play(1.4, 66);
    expect(session.store.getState()).toMatchObject({ attempt: 1, shot: { name: "E4" } });
    await play(1.4, 64);
    expect(session.store.getState().shot).toBeNull();
    expect(told()).toBe(2);
    // What is known already before the end is what comes out of it: a crash loses none of it.
    const before = known();
    const slices = session.stop();
    expect(before).toEqual(slices);
    expect(slices.map((s) => [s.note, s.keep])).toEqual([
      [60, true],
      [null, false],
      [64, true],
    ]);
    expect(slices[1]?.doubt).toMatch(/sounds like F#4/);
    for (const s of slices) expect(s.end).toBeGreaterThan(s.start + 0.3 * RATE);
  });

  test("a sound of which a part was lost is asked for again; one of which that is learnt too late leaves its entry open", async () => {
    const { session, play, lose } = studio();
    session.start(shots, RATE, "none");
    await play(1);
    lose(-0.1);
    await play(1.4, 60);
    expect(session.store.getState()).toMatchObject({ attempt: 1, shot: { name: "C4" } });
    expect(session.store.getState().verdict?.problems).toEqual([
      "a part of it was lost, for the computer was too busy",
    ]);
    await play(1.4, 60);
    await play(1.4, 64);
    expect(session.store.getState().shot).toBeNull();
    lose(1.3);
    const slices = session.stop();
    expect(slices.map((s) => [s.keep, s.note, s.doubt])).toEqual([
      [false, null, "a part of it was lost, for the computer was too busy"],
      [true, 60, ""],
      [false, null, "a part of it was lost, for the computer was too busy"],
    ]);
    expect(session.store.getState().shots.map((s) => s.state)).toEqual(["done", "open"]);
  });

  test("skip, redo, take it anyway, pause", async () => {
    const { session, play, known } = studio();
    session.start(shots, RATE, "none");
    await play(1);
    session.skip();
    expect(session.store.getState().shots.map((s) => s.state)).toEqual(["skipped", "open"]);
    await play(1.4, 70);
    session.accept();
    expect(session.store.getState().shots.map((s) => s.state)).toEqual(["skipped", "done"]);
    expect(known().map((s) => s.keep)).toEqual([true]);
    session.redo();
    expect(known().map((s) => s.keep)).toEqual([false]);
    expect(session.store.getState().shot?.name).toBe("E4");
    session.pause();
    await play(1.4, 64);
    expect(session.store.getState().state).toBe("paused");
    session.resume();
    await play(1.4, 64);
    const kept = session.stop().filter((s) => s.keep);
    expect(kept.map((s) => s.note)).toEqual([64]);
  });

  test("a pause while a sound is being judged stays a pause", async () => {
    const { session, play } = studio();
    session.start(shots, RATE, "none");
    await play(1);
    const ringing = play(1.4, 60);
    session.pause();
    await ringing;
    expect(session.store.getState()).toMatchObject({ state: "paused", shot: { name: "E4" } });
    session.resume();
    expect(session.store.getState().state).toBe("waiting");
  });

  test("what comes before an entry is sounded, and what is heard meanwhile doesn't count", async () => {
    const { session, play, cues } = studio();
    session.start(shots, RATE, "tone");
    expect(cues).toEqual(["tone C4"]);
    await play(0.8);
    await play(0.9, 60);
    expect(session.store.getState().verdict).toBeNull();
    await play(1);
    await play(1.4, 60);
    expect(cues).toEqual(["tone C4", "tone E4"]);
  });
});

test("the bench mic makes its three mistakes once each, and plays harder for a higher strength", () => {
  const shots = makeShots({ notes: [60, "bell"], strengths: 2, repeats: 2 });
  expect([0, 1, 2, 3, 4, 5, 6].map((i) => mistakeAt(i, 0))).toEqual([
    null,
    null,
    "clipped",
    null,
    "wrong",
    "missed",
    null,
  ]);
  expect(mistakeAt(2, 1)).toBeNull();
  const [soft, , hard] = shots;
  if (!soft || !hard) throw new Error("there are entries");
  expect(strokeFor(hard, 0, 1).level).toBeGreaterThan(strokeFor(soft, 0, 1).level * 3);
  expect(strokeFor(soft, 4, 0).note).toBe(62);
  expect(strokeFor(soft, 2, 0).level).toBeGreaterThan(1);
  expect(strokeFor(soft, 5, 0).after).toBeGreaterThan(1);
});

test("channels are taken as they were chosen", () => {
  const chunk = [Float32Array.of(0.5, 1), Float32Array.of(-0.5, 0)];
  expect(chooseChannels(chunk, "stereo")).toEqual(chunk);
  expect(chooseChannels(chunk, "right")).toEqual([chunk[1]]);
  expect(chooseChannels(chunk, "mono")).toEqual([Float32Array.of(0, 0.5)]);
  expect(chooseChannels([Float32Array.of(0.25)], "mono")).toEqual([Float32Array.of(0.25)]);
});
