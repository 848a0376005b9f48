export {
  findLoops,
  kindText,
  type LoopAnswer,
  type LoopCandidate,
  type LoopKind,
  type LoopParts,
  type LoopWish,
} from "./find-loops";
export { regionOf } from "./region";
export { fluxOf, measureSeam, type SeamMeasure, unrolled } from "./seam";
