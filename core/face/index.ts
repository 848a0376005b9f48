export { ARRANGEMENT_LABELS, type Arrangement, around, arranged, type Box } from "./arrange";
export { type Bindable, bindables } from "./bindable";
export { blendLevels, blendPlace } from "./blend";
export { passes } from "./conditions";
export { checkFace, type FaceDoubt, itemName, lettersOf, repairAll } from "./face-check";
export { flowed, withScreen } from "./flow";
export { BLACK_DOWN, keyUnder, type StripKey, stripKeys } from "./key-strip";
export { type FaceKindSpec, faceKind, faceKinds, formOf, isControl, isPlayed, movesRow, type Takes } from "./kinds";
export { type Learned, readLearned, withLearned } from "./learned";
export { FACE_PLANS, type FacePlan, makeFace } from "./make-face";
export { nextBinding } from "./next-binding";
export { type Pad, padsOf } from "./pads";
export { fontType, type PictureInfo, type PictureType, pictureInfo } from "./picture-info";
export { type DrawnLayer, drawnLayer, frameAt, framesFit, guessedFrames } from "./picture-layers";
export { reachOf } from "./reach";
export { laidOut, placeOn, screenFor, throughScreen } from "./screens";
export { type Guide, type Snapped, snapped } from "./snap";
export {
  type KeptSnapshot,
  MOST_SNAPSHOTS,
  readSnapshots,
  type Snapshot,
  snapshotOf,
  withSnapshot,
} from "./snapshot";
export { colourOf, contrast, DIAL_FORMS, type DialForm, faceTheme, isDialForm, type ThemeSpec } from "./themes";
export { throughMacros } from "./through-macros";
