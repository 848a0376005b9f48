import { expect, test } from "@jest/globals";
import { bakeWaves, WAVE_FLOATS, WAVE_TABLES, WAVES } from "../dsp";
import { Heap } from "./heap";
import { WaveTables } from "./wave-tables";

const PAGE = 65536;
const heapOf = (pages: number): Heap => new Heap(new WebAssembly.Memory({ initial: 1, maximum: pages }), 16);
/** What a kernel finds in a wave's set: the most cycles per frame, address and points of each table, up to its end. */
function rowsOf(heap: Heap, tables: WaveTables, wave: number): { most: number; at: number; size: number }[] {
  const rows = [];
  for (let row = (heap.u32[tables.at / 4 + wave] as number) / 4; heap.f32[row] !== 0; row += 4)
    rows.push({
      most: heap.f32[row] as number,
      at: heap.u32[row + 1] as number,
      size: 2 ** (heap.i32[row + 2] as number),
    });
  return rows;
}

test("each wave has one table at first, its first harmonic; a table is told of once it is there whole, and is what was made", () => {
  const heap = heapOf(100);
  const tables = new WaveTables(heap);
  tables.prepare();
  expect(WAVES.map((_, w) => rowsOf(heap, tables, w).length)).toEqual([1, 1, 1]);
  const [first] = rowsOf(heap, tables, 0);
  for (const share of [0, 0.25, 0.5, 1])
    expect(heap.f32[(first?.at ?? 0) / 4 + (first?.size ?? 0) * share]).toBeCloseTo(Math.sin(2 * Math.PI * share), 6);
  const waves = bakeWaves();
  expect([tables.ask(), tables.ask()]).toEqual([true, false]);
  tables.give(waves);
  let before = 3;
  while (tables.working) {
    tables.work(40_000);
    const told = WAVES.flatMap((_, w) => rowsOf(heap, tables, w));
    expect(told.length).toBeGreaterThanOrEqual(before);
    before = told.length;
  }
  expect([tables.awaiting, before]).toEqual([false, WAVE_TABLES.length]);
  WAVES.forEach((wave, w) => {
    const meant = WAVE_TABLES.filter((t) => t.wave === wave);
    const rows = rowsOf(heap, tables, w);
    expect(rows.map((r) => [r.size, r.most])).toEqual(meant.map((t) => [t.size, Math.fround(0.5 / t.harmonics)]));
    rows.forEach(({ at, size }, i) => {
      const from = meant[i]?.at ?? 0;
      expect(heap.f32.slice(at / 4, at / 4 + size + 1)).toEqual(waves.slice(from, from + size + 1));
    });
  });
});

test("where there is no memory nothing of it is taken, and later it is tried again; what isn't all of them isn't taken", () => {
  const heap = heapOf(Math.ceil((WAVE_FLOATS * 4) / PAGE) + 2);
  const other = heap.allocate(WAVE_FLOATS * 4 + PAGE);
  const tables = new WaveTables(heap);
  const { used } = heap;
  expect(() => tables.prepare()).toThrow(RangeError);
  expect([heap.used, tables.at, tables.awaiting, tables.ask()]).toEqual([used, 0, false, false]);
  heap.release(other);
  tables.prepare();
  expect(tables.awaiting).toBe(true);
  tables.give(new Float32Array(10));
  expect(tables.working).toBe(false);
});
