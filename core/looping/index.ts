export { copiedLoop, type LoopCopyBy, type LoopPlace } from "./copy-loop";
export { findLoops } from "./find-loops";
export { LoopJudge } from "./judge";
export {
  kindText,
  type LoopAnswer,
  type LoopCandidate,
  type LoopKind,
  type LoopParts,
  type LoopWish,
} from "./loop-candidate";
export { levelTrack, regionOf, STEP } from "./region";
export { fluxOf, measureSeam, type SeamMeasure, unrolled } from "./seam";
