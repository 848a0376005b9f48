export { type Bars, beatFrames, wholeBars } from "./bars";
export { type FoundBeat, findBeat } from "./beat";
export { copiedLoop, type LoopCopyBy, type LoopPlace } from "./copy-loop";
export { otherEnds } from "./ends";
export { findLoops } from "./find-loops";
export { evened, levelCurveOf } from "./flatten";
export { judgeLoop, LoopJudge } from "./judge";
export {
  kindText,
  type LoopAnswer,
  type LoopCandidate,
  type LoopKind,
  type LoopParts,
  type LoopWish,
  loopOfCandidate,
} from "./loop-candidate";
export { levelTrack, regionOf, STEP, smoothTrack } from "./region";
export { fluxOf, measureSeam, type SeamMeasure, seamsOf, unrolled } from "./seam";
export { colourBetween } from "./spectra";
