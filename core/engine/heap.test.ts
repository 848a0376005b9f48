import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { Heap } from "./heap";

const heap = () => new Heap(new WebAssembly.Memory({ initial: 1, maximum: 64 }), 1000);

test("no two stretches ever overlap, whatever is taken and given back, and all comes back", () => {
  fc.assert(
    fc.property(
      fc.array(fc.oneof(fc.integer({ min: 1, max: 9000 }), fc.integer({ min: -40, max: -1 })), { maxLength: 120 }),
      (steps) => {
        const h = heap();
        const live: { at: number; size: number }[] = [];
        for (const step of steps) {
          if (step > 0) live.push({ at: h.allocate(step), size: step });
          else {
            const [gone] = live.splice(-step % Math.max(1, live.length), 1);
            if (gone) h.release(gone.at);
          }
          const sorted = [...live].sort((a, b) => a.at - b.at);
          sorted.forEach((s, i) => {
            expect(s.at % 16).toBe(0);
            expect(s.at).toBeGreaterThanOrEqual(1000);
            expect(s.at + s.size).toBeLessThanOrEqual(sorted[i + 1]?.at ?? h.memory.buffer.byteLength);
          });
        }
        for (const { at } of live) h.release(at);
        expect(h.used).toBe(0);
      },
    ),
  );
});

test("what was given back is used again, so that loading and dropping forever needs no more memory", () => {
  const h = heap();
  for (let i = 0; i < 500; i++) {
    const a = h.allocate(100_000);
    const b = h.allocate(50_000);
    h.release(a);
    h.release(b);
  }
  expect(h.memory.buffer.byteLength).toBeLessThan(1_000_000);
});

test("views follow the memory as it grows, and too much is refused with a reason", () => {
  const h = heap();
  const small = h.allocate(64);
  h.f32[small / 4] = 0.5;
  h.allocate(1_000_000);
  expect(h.f32[small / 4]).toBe(0.5);
  expect(h.f32.buffer).toBe(h.memory.buffer);
  expect(() => h.allocate(64 * 65536)).toThrow("no room");
  expect(() => h.release(12345)).toThrow(RangeError);
});
