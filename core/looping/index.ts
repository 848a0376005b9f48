export {
  findLoops,
  kindText,
  type LoopAnswer,
  type LoopCandidate,
  type LoopKind,
  type LoopParts,
  type LoopWish,
} from "./find-loops";
export { levelTrack, regionOf, STEP } from "./region";
export { fluxOf, measureSeam, type SeamMeasure, unrolled } from "./seam";
