import { recordBells } from "./bells";
import { recordFreewheel } from "./freewheel";
import { recordPump } from "./pump";
import { recordSpokes } from "./spokes";

/** Every take of the workshop, by the name it has in the application. */
export const DEMO_TAKES: readonly { name: string; record: () => Float32Array<ArrayBuffer> }[] = [
  { name: "spokes", record: () => recordSpokes().samples },
  { name: "bells", record: () => recordBells() },
  { name: "pump", record: () => recordPump() },
  { name: "freewheel", record: () => recordFreewheel() },
];
