import { expect, test } from "@jest/globals";
import { PhrasePlayer } from "./phrase-player";

const RATE = 1000;
const player = () => {
  const sent: (readonly number[])[] = [];
  const phrase = new PhrasePlayer(RATE, (...message) => void sent.push(message.filter((m) => m !== undefined)));
  return { phrase, sent, take: () => sent.splice(0) };
};
const at = (seconds: number, status: number, data1: number, data2: number) => ({ seconds, status, data1, data2 });
const song = [
  at(0, 0xb0, 64, 127),
  at(0, 0x91, 60, 90),
  at(0.25, 0xe0, 0, 100),
  at(0.25, 0xb0, 1, 80),
  at(0.3, 0xd0, 50, 0),
  at(0.5, 0x81, 60, 0),
];

test("each message comes on its frame, again and again, however the time is parted", () => {
  const { phrase, take } = player();
  phrase.play(song, 1, 100);
  phrase.queue(100);
  expect(take()).toEqual([]);
  for (let until = 101; until <= 1200; until += 7) phrase.queue(until);
  const frames = take().map((m) => m[3]);
  expect(frames).toEqual([100, 100, 350, 350, 400, 600, 1100, 1100]);
});

test("when it is stopped nothing of it stays: notes end, pedal, wheel, pressure and bend are at rest", () => {
  const { phrase, take } = player();
  phrase.play(song, 1, 0);
  phrase.queue(800);
  take();
  phrase.stop();
  expect(take()).toEqual([
    [0x81, 60, 0],
    [0xb0, 64, 0],
    [0xe0, 0, 64],
    [0xb0, 1, 0],
    [0xd0, 0, 0],
  ]);
  phrase.stop();
  phrase.queue(5000);
  expect(take()).toEqual([]);
});

test("what a hand holds is the hand's again; a phrase in place of another leaves nothing of that one", () => {
  const { phrase, take } = player();
  phrase.takeHand(0xb0, 64, 127);
  phrase.takeHand(0xe0, 5, 70);
  phrase.play(song, 1, 0);
  phrase.queue(800);
  take();
  phrase.play([], 1, 900);
  expect(take()).toEqual(
    expect.arrayContaining([
      [0xb0, 64, 127],
      [0xe0, 5, 70],
      [0xb0, 1, 0],
    ]),
  );
  phrase.takeHand(0xb0, 121, 0);
  phrase.play(song, 1, 1000);
  phrase.stop();
  expect(take()).toContainEqual([0xb0, 64, 0]);
});
