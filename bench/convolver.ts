import { Convolver, compileKernels, startKernels } from "../core/dsp";
import { type Figure, round } from "./figure";
import { inPage } from "./in-page";

const RATE = 48000;
const BLOCK = 128;
const ROOM_SECONDS = 3;
const RUNS = 12;
const BLOCKS = 1600;

/**
 * Share of the time of a block that the worst block takes. Which block does how much work is always the same: of each the fastest of several runs counts, for
 * whatever else the machine does only makes them slower; then the slowest of all blocks.
 */
function worstBlock(): number {
  const kernels = startKernels(compileKernels());
  const impulse = [0, 1].map((c) =>
    Float32Array.from({ length: RATE * ROOM_SECONDS }, (_, i) => Math.sin(i * i * (1 + c)) * Math.exp(-i / RATE)),
  );
  const fastest = new Float64Array(BLOCKS).fill(Number.POSITIVE_INFINITY);
  const [left, right] = [new Float32Array(BLOCK), new Float32Array(BLOCK)];
  for (let run = 0; run < RUNS; run++) {
    const room = new Convolver(RATE, kernels);
    room.load({ rate: RATE, channels: impulse });
    room.settle();
    room.tune(1, 0);
    room.process(left, right, 0, BLOCK);
    for (let b = 0; b < BLOCKS; b++) {
      for (let i = 0; i < BLOCK; i++) {
        left[i] = Math.sin((b * BLOCK + i) * 0.031);
        right[i] = Math.sin((b * BLOCK + i) * 0.037);
      }
      const began = performance.now();
      room.process(left, right, 0, BLOCK);
      fastest[b] = Math.min(fastest[b] as number, performance.now() - began);
    }
  }
  return Math.max(...fastest) / ((1000 * BLOCK) / RATE);
}

/** A recorded room of 3 s against the browser's own node in one run, and how evenly its work is spread. */
export function convolver(): Promise<Figure[]> {
  return inPage("convolver-page.ts", async (page) => {
    const { ours, native } = await page.evaluate(() =>
      (
        globalThis as unknown as { measureConvolver: () => Promise<{ ours: number; native: number }> }
      ).measureConvolver(),
    );
    const worst = worstBlock();
    return [
      {
        name: "a recorded room of 3 s, without delay",
        value: round(ours * 100),
        unit: "% of one core",
        ratio: round(native / ours),
        against: `the browser's own node (${round(native * 100)} %)`,
        hold: "ratio ≥ 2",
        pass: native / ours >= 2,
      },
      {
        name: "its worst block of 128 frames",
        value: round(worst * 100),
        unit: "% of the block's time",
        hold: "≤ 25",
        pass: worst <= 0.25,
      },
    ];
  });
}
