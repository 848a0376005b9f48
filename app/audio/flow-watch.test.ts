import { describe, expect, test } from "@jest/globals";
import { seededRandom } from "../../core/audio";
import { FlowWatch, MOST_HELD, WINDOW } from "./flow-watch";

const PIECE = 441;
const CHUNK = 8192;

/**
 * An input, what holds its sound for the page, and the page, in steps of 10 ms: whoever is asked for sound that isn't there puts
 * silence in its place; what comes when it is full is thrown away. `stalls`: steps in which the input is held up; what it has then
 * comes at once when it goes on. `late`: pieces that the page's reading of the input is late by.
 */
function flow(steps: number, stalled: (step: number) => boolean, late: () => number) {
  const watch = new FlowWatch(PIECE);
  let [held, waiting, delivered, arrived, inserted, lost, chunk] = [3, 0, 0, 0, 0, 0, 0];
  const found: { frame: number; at: number }[] = [];
  const losses: number[] = [];
  let surest = true;
  for (let step = 0; step < steps; step++) {
    waiting++;
    if (!stalled(step)) {
      for (; waiting > 0; waiting--) {
        delivered += PIECE;
        if (held < MOST_HELD) held++;
        else {
          lost += PIECE;
          losses.push(arrived);
        }
      }
    }
    if (held > 0) held--;
    else inserted += PIECE;
    arrived += PIECE;
    chunk += PIECE;
    if (chunk < CHUNK) continue;
    chunk -= CHUNK;
    const frame = watch.take(arrived, inserted, delivered + late() * PIECE);
    if (frame !== null) found.push({ frame, at: arrived });
    if (watch.lost > lost) surest = false;
  }
  return { watch, found, losses, lost, surest };
}

describe("sound that is lost without a trace", () => {
  test("an input that comes evenly, or now and then a little late, has lost nothing", () => {
    const random = seededRandom(2);
    expect(
      flow(
        3000,
        () => false,
        () => 0,
      ).found,
    ).toEqual([]);
    const { found, lost } = flow(
      9000,
      (s) => s % 400 < 6,
      () => Math.floor(random() * 5),
    );
    expect(lost).toBe(0);
    expect(found).toEqual([]);
  });

  test("what is lost after a long stall is known within two seconds, and near its place", () => {
    const { watch, found, losses, lost } = flow(
      3000,
      (s) => s >= 1000 && s < 1040,
      () => 0,
    );
    expect(lost).toBeGreaterThan(PIECE * 10);
    expect(watch.lost).toBeGreaterThan(lost - MOST_HELD * PIECE);
    expect(found).toHaveLength(1);
    expect(Math.abs((found[0]?.frame ?? 0) - (losses[0] ?? 0))).toBeLessThan(CHUNK * 2);
    expect((found[0]?.at ?? 0) - (losses[0] ?? 0)).toBeLessThan(CHUNK * (WINDOW + 3));
  });

  test("however input and page are held up, never more is said to be lost than was lost, and most of what was is said", () => {
    let hard = 0;
    for (let seed = 1; seed <= 30; seed++) {
      const random = seededRandom(seed);
      let until = 0;
      const { watch, lost, surest } = flow(
        20000,
        (step) => {
          if (step >= until && random() < 0.01) until = step + Math.floor(random() ** 2 * 60);
          return step < until;
        },
        // Mostly in time, for the page catches up.
        () => (random() < 0.4 ? Math.floor(random() * 30) : 0),
      );
      expect(surest).toBe(true);
      if (lost <= 50 * PIECE) continue;
      hard++;
      expect(watch.lost).toBeGreaterThan(lost * 0.5);
    }
    expect(hard).toBeGreaterThan(10);
  });
});
