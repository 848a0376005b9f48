import { number } from "./number";

/** Whether the sound goes through a unit. Routes, macros, the face and rules can switch it: on is from a half on. */
export const ON = number({
  id: "on",
  label: "On",
  unit: "switch",
  min: 0,
  max: 1,
  default: 1,
  mod: "linear",
  help: "Bypasses the unit when off.",
});
