import { expect, test } from "@jest/globals";
import type { ToEngine } from "./protocol";
import { Standing } from "./standing";

const midi = (status: number, data1: number, data2: number): ToEngine => ({ type: "midi", status, data1, data2 });

test("an engine that is begun anew is told tempo, controllers, pressure and bend as they stand, each once", () => {
  const standing = new Standing();
  expect(standing.messages()).toEqual([]);
  const wheel = midi(0xb0, 1, 99);
  const all = [{ type: "tempo" as const, tempo: 84 }, wheel, midi(0xb3, 1, 5), midi(0xe0, 0, 96), midi(0xd0, 40, 0)];
  for (const message of [{ type: "tempo" as const, tempo: 200 }, midi(0xb0, 1, 3), ...all]) standing.take(message);
  expect(standing.messages()).toEqual(all);
});

test("of what is heard alone and what is muted the last word stands", () => {
  const standing = new Standing();
  const solo = { type: "solo" as const, layers: [] };
  const mute = { type: "mute" as const, muted: ["mics/near"], alone: [] };
  standing.take({ type: "solo", layers: ["main"] });
  for (const message of [mute, solo, { type: "stop" as const }]) standing.take(message);
  expect(standing.messages()).toEqual([solo, mute]);
});

test("notes and what is over at once don't stand; reset controllers stand no longer, on their channel", () => {
  const standing = new Standing();
  for (const message of [midi(0x90, 60, 100), midi(0xb0, 123, 0), midi(0xa0, 60, 5), midi(0xb0, 64, 127)])
    standing.take(message);
  expect(standing.messages()).toEqual([midi(0xb0, 64, 127)]);
  standing.take(midi(0xb1, 64, 127));
  standing.take(midi(0xb0, 121, 0));
  expect(standing.messages()).toEqual([midi(0xb1, 64, 127)]);
});
