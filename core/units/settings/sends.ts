import { sendLevel } from "../number";
import type { UnitSpec } from "../unit";

const level = <const I extends string>(id: I, n: number) =>
  sendLevel(id, n, `How much of the layer goes to send ${n}, after its inserts; off: nothing.`);

/** How much of a layer goes to each of the four sends. */
export const sends = {
  kind: "sends",
  role: "sends",
  label: "Sends",
  help: "Send levels of the layer.",
  params: [level("send1", 1), level("send2", 2), level("send3", 3), level("send4", 4)],
} as const satisfies UnitSpec;
