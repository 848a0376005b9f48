import { expect, test } from "@jest/globals";
import { ComputerKeys } from "./computer-keys";

function keys(lowest = () => 48) {
  const log: string[] = [];
  const player = {
    noteOn: (key: number, velocity: number) => log.push(`on ${key} ${velocity}`),
    noteOff: (key: number) => log.push(`off ${key}`),
  };
  return { log, keys: new ComputerKeys(player, lowest) };
}
const press = (code: string, more: { shiftKey?: boolean; repeat?: boolean } = {}) => ({
  code,
  shiftKey: false,
  repeat: false,
  ...more,
});

test("letters are a keyboard from the lowest key up; with Shift they are soft; a held one sounds once", () => {
  const { log, keys: k } = keys();
  expect(k.down(press("KeyA"))).toBe(true);
  k.down(press("KeyA", { repeat: true }));
  k.down(press("KeyA"));
  k.down(press("KeyW", { shiftKey: true }));
  k.up(press("KeyA"));
  k.up(press("KeyA"));
  expect(log).toEqual(["on 48 96", "on 49 40", "off 48"]);
  expect(k.down(press("Digit1"))).toBe(false);
});

test("a key is let go as the one it was, even when the octave moved meanwhile", () => {
  let low = 48;
  const { log, keys: k } = keys(() => low);
  k.down(press("KeyD"));
  low = 60;
  k.up(press("KeyD"));
  k.down(press("KeyD"));
  k.release();
  expect(log).toEqual(["on 52 96", "off 52", "on 64 96", "off 64"]);
});

test("nothing sounds beyond the highest key", () => {
  const { log, keys: k } = keys(() => 120);
  k.down(press("KeyJ"));
  k.down(press("KeyA"));
  expect(log).toEqual(["on 120 96"]);
});
