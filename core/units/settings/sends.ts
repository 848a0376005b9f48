import { number } from "../number";
import type { UnitSpec } from "../unit";

/** Lowest level of a send: off. */
const OFF = -60;

const level = <I extends string>(id: I, n: number) =>
  number({
    id,
    label: `To send ${n}`,
    unit: "decibels",
    min: OFF,
    max: 12,
    default: OFF,
    mod: "linear",
    lowest: "off",
    help: `How much of the layer goes to send ${n}, after its inserts; off: nothing.`,
  });

/** How much of a layer goes to each of the four sends. */
export const sends = {
  kind: "sends",
  role: "sends",
  label: "Sends",
  help: "How much of the layer goes to each send.",
  params: [level("send1", 1), level("send2", 2), level("send3", 3), level("send4", 4)],
} as const satisfies UnitSpec;
