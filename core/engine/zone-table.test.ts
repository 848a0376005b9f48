import { expect, test } from "@jest/globals";
import { startKernels } from "../dsp";
import type { Zone } from "../instrument";
import { compile } from "./compile";
import { Engine } from "./engine";
import type { Plan } from "./plan";
import { applyDelta, planDelta } from "./plan-delta";
import { benchInstrument, KERNELS, RATE, sine } from "./test-bench";

const ZONES = 5000;
const zones = Array.from({ length: ZONES }, (_, i) => ({ id: `z${i}`, keyLow: i % 128, keyHigh: i % 128, root: 60 }));
const plan = compile(benchInstrument([sine(RATE, 440)], zones));

/** The plan with zones that count how often they are looked into. */
function counted(): { readonly plan: Plan; readonly reads: () => number } {
  let reads = 0;
  const watch = (zone: Zone): Zone =>
    new Proxy(zone, {
      get: (of, key) => {
        reads++;
        return Reflect.get(of, key);
      },
    });
  const layers = plan.layers.map((l) => ({ ...l, groups: l.groups.map((g) => ({ ...g, zones: g.zones.map(watch) })) }));
  return { plan: { ...plan, layers }, reads: () => reads };
}

/** A plan with other zones in its one group. */
const withZones = (of: Plan, change: (zones: readonly Zone[]) => readonly Zone[]): Plan => ({
  ...of,
  layers: of.layers.map((l) => ({ ...l, groups: l.groups.map((g) => ({ ...g, zones: change(g.zones) })) })),
});

test("a plan looks into the zones that are others than before, and into no more", () => {
  const { plan: first, reads } = counted();
  const engine = new Engine(startKernels(KERNELS), { rate: RATE, arriving: true });
  engine.setPlan(first);
  const taken = () => {
    const before = reads();
    return () => reads() - before;
  };
  let since = taken();
  // As it comes where a unit or a route is put in: every group is a new object, its zones are as they were.
  let next = applyDelta(planDelta({ ...first, effects: [] }, first), first);
  engine.setPlan(next);
  expect(since()).toBe(0);
  since = taken();
  const other = (zone: Zone): Zone => ({ ...zone, root: 64 });
  const moved = withZones(next, (z) => z.with(777, other(z[777] as Zone)));
  next = applyDelta(planDelta(moved, next), next);
  engine.setPlan(next);
  // The one that went is read to be copied, and once more to be let go.
  expect(since()).toBeLessThan(100);
  engine.midi(0x90, 777 % 128, 100);
  expect(engine.status().voices).toBe(0);
});

test("zones come, go, change places and groups: keys find what is there, and nothing else", () => {
  const engine = new Engine(startKernels(KERNELS), { rate: RATE });
  engine.setPlan(plan);
  const audio = sine(RATE, 440);
  const sha = plan.samples[0] as string;
  engine.addSample(sha, audio);
  const sounding = (of: Plan, key: number): number => {
    engine.setPlan(of);
    engine.reset();
    engine.midi(0x90, key, 100);
    engine.render(new Float32Array(256), new Float32Array(256));
    return engine.status().voices;
  };
  const few = withZones(plan, (z) => z.slice(0, 40));
  expect(sounding(few, 39)).toBe(1);
  expect(sounding(few, 40)).toBe(0);
  const turned = withZones(few, (z) => z.toReversed());
  expect(sounding(turned, 39)).toBe(1);
  const shifted = withZones(few, (z) => z.map((zone, i) => (i === 5 ? { ...zone, keyLow: 90, keyHigh: 90 } : zone)));
  expect(sounding(shifted, 5)).toBe(0);
  expect(sounding(shifted, 90)).toBe(1);
  expect(
    sounding(
      withZones(plan, () => []),
      39,
    ),
  ).toBe(0);
  const [layer] = few.layers as [Plan["layers"][number]];
  const [group] = layer.groups as [(typeof layer.groups)[number]];
  const apart = [
    { ...group, id: "a", zones: group.zones.slice(20) },
    { ...group, id: "b", zones: group.zones.slice(0, 20) },
  ];
  const two = { ...few, layers: [{ ...layer, groups: apart }] };
  expect([3, 25, 41].map((key) => sounding(two, key))).toEqual([1, 1, 0]);
});
