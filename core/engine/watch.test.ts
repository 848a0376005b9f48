import { describe, expect, test } from "@jest/globals";
import { Watch } from "./watch";

describe("watching shared values", () => {
  test("what moves is told once, whichever it is", () => {
    const values = new Float64Array([1, 2, 3, 4]);
    const watch = new Watch(Int32Array.of(3, 1));
    expect(watch.moved(values)).toBe(true);
    expect(watch.moved(values)).toBe(false);
    values[0] = 9;
    expect(watch.moved(values)).toBe(false);
    values[1] = 4;
    values[3] = 2;
    expect(watch.moved(values)).toBe(true);
    expect(watch.moved(values)).toBe(false);
  });

  test("a voice's own value may always have moved; nothing to watch never has", () => {
    const values = new Float64Array(2);
    const own = new Watch(Int32Array.of(0, -1));
    expect([own.moved(values), own.moved(values)]).toEqual([true, true]);
    expect(new Watch(new Int32Array(0)).moved(values)).toBe(false);
  });
});
