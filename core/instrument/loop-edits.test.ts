import { expect, test } from "@jest/globals";
import { newLoop, newZone } from "./defaults";
import { MOST_VARIANTS, type Zone } from "./instrument";
import { chooseVariant, stretchedZone, variantsOf, withoutVariant, withVariant } from "./loop-edits";
import { settleZone } from "./zone-edits";

const looped = (start: number): Zone =>
  newZone({ id: "z", sample: "s", end: 9000, loop: newLoop({ start, end: 8000 }) });
const starts = (zone: Zone) => variantsOf(zone).map((l) => l.start);
const move = (zone: Zone, start: number): Zone => ({ ...zone, loop: zone.loop && { ...zone.loop, start } });

test("a loop is kept, its copy is moved, and both are switched between without losing either", () => {
  const two = move(withVariant(looped(1000)), 2000);
  expect(starts(two)).toEqual([1000, 2000]);
  const first = chooseVariant(two, 0);
  expect(first.loop?.start).toBe(1000);
  const moved = move(first, 1500);
  expect(starts(moved)).toEqual([1500, 2000]);
  const back = chooseVariant(moved, 1);
  expect(back.loop?.start).toBe(2000);
  expect(starts(back)).toEqual([1500, 2000]);
  expect(chooseVariant(back, 7)).toBe(back);
});

test("at most eight; leaving them out ends with the one that is left", () => {
  let zone = looped(100);
  for (let n = 1; n < 12; n++) zone = move(withVariant(zone), 100 + n);
  expect(starts(zone)).toHaveLength(MOST_VARIANTS);
  expect(settleZone(zone, 9000)).toEqual(zone);
  for (let n = 0; n < 12; n++) zone = withoutVariant(zone);
  expect(zone.variants).toEqual([]);
  expect(zone.loop?.start).toBe(100);
});

test("without a loop there is nothing to keep; what lies outside the sound is settled with the zone", () => {
  const bare = newZone({ id: "z", sample: "s", end: 9000 });
  expect(withVariant(bare)).toBe(bare);
  expect(withoutVariant(bare)).toBe(bare);
  const odd = {
    ...looped(10),
    variants: [newLoop({ start: -5, end: 99999 }), newLoop({ start: 1, end: 1 })],
    variant: 9,
  };
  const settled = settleZone(odd, 9000);
  expect(settled.variant).toBe(1);
  for (const { start, end } of settled.variants) {
    expect(start).toBeGreaterThanOrEqual(0);
    expect(end).toBeLessThanOrEqual(9000);
    expect(end - start).toBeGreaterThanOrEqual(2);
  }
});

test("a zone of a stretched sample plays the same places, its loops and their curves too", () => {
  const flat = { amount: 1, from: 100, step: 50, levels: [0, -3] };
  const zone = newZone({
    ...{ id: "z", sample: "s", start: 10, end: 9000 },
    loop: newLoop({ start: 1000, end: 8000, fade: 100, flat }),
  });
  const longer = stretchedZone(zone, { sha: "t", frames: 13500 }, 1.5);
  expect(longer).toMatchObject({ sample: "t", start: 15, end: 13500 });
  expect(longer.loop).toMatchObject({ start: 1500, end: 12000, fade: 150, flat: { from: 150, step: 75 } });
  expect(settleZone(longer, 13500)).toEqual(longer);
});
