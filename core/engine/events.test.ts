import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { EVENT, EventQueue } from "./events";

test("events come out by frame, those of one frame in the order they came", () => {
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.nat(50), fc.boolean()), { maxLength: 300 }), (steps) => {
      const queue = new EventQueue(128);
      let expected: { frame: number; id: number }[] = [];
      let dropped = 0;
      steps.forEach(([frame, take], id) => {
        if (take && expected.length > 0) {
          const [first] = expected;
          expect(queue.nextFrame).toBe(first?.frame);
          expect(queue.value(0)).toBe(first?.id);
          expect(queue.value(3)).toBe(-(first?.id ?? 0));
          queue.shift();
          expected = expected.slice(1);
          return;
        }
        queue.push(frame, EVENT.on, id, 1, 2, -id);
        if (expected.length === 128) {
          dropped++;
          return;
        }
        const at = expected.findIndex((e) => e.frame > frame);
        expected.splice(at < 0 ? expected.length : at, 0, { frame, id });
      });
      expect(queue.size).toBe(expected.length);
      expect(queue.dropped).toBe(dropped);
    }),
  );
});

test("an empty queue has nothing next", () => {
  const queue = new EventQueue(4);
  expect(queue.nextFrame).toBe(Number.POSITIVE_INFINITY);
  queue.shift();
  queue.push(3, EVENT.off, 7);
  expect(queue.kind).toBe(EVENT.off);
  queue.clear();
  expect(queue.nextFrame).toBe(Number.POSITIVE_INFINITY);
});

test("events of two kinds are forgotten, the others keep their order, round the end of the ring too", () => {
  const queue = new EventQueue(8);
  for (let i = 0; i < 6; i++) queue.push(0, EVENT.on, i);
  for (let i = 0; i < 6; i++) queue.shift();
  for (let i = 0; i < 7; i++) queue.push(i, i % 2 === 0 ? EVENT.soundingOn : EVENT.controller, i);
  queue.remove(EVENT.soundingOn, EVENT.soundingOff);
  const left: number[] = [];
  for (; queue.size > 0; queue.shift()) left.push(queue.value(0));
  expect(left).toEqual([1, 3, 5]);
});
