import { describe, expect, test } from "@jest/globals";
import { newInstrument } from "../../core/instrument";
import { Turns } from "./turns";

const at = (n: number) => newInstrument(`i${n}`, `${n}`);

describe("turns of a player", () => {
  test("one gesture is one step, taken back and done again; a new turn forgets what was undone", () => {
    const turns = new Turns();
    const [a, b, c, d] = [at(1), at(2), at(3), at(4)];
    turns.before(a, "drag-1");
    turns.before(b, "drag-1");
    turns.before(c, "drag-2");
    expect(turns.undo(d)).toBe(c);
    expect(turns.undo(c)).toBe(a);
    expect(turns.undo(a)).toBeNull();
    expect(turns.redo(a)).toBe(c);
    expect(turns.redo(c)).toBe(d);
    expect(turns.redo(d)).toBeNull();
    turns.undo(d);
    turns.before(c, "drag-2");
    expect(turns.redo(b)).toBeNull();
    expect(turns.undo(b)).toBe(c);
  });

  test("the oldest are forgotten", () => {
    const turns = new Turns();
    for (let n = 0; n < 500; n++) turns.before(at(n), `g${n}`);
    let steps = 0;
    for (let now = turns.undo(at(0)); now; now = turns.undo(now)) steps++;
    expect(steps).toBe(200);
  });
});
