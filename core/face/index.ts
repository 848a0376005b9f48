export { ARRANGEMENT_LABELS, type Arrangement, around, arranged, type Box } from "./arrange";
export { type Bindable, bindables } from "./bindable";
export { checkFace, type FaceDoubt, itemName, lettersOf, repairAll } from "./face-check";
export { BLACK_DOWN, keyUnder, type StripKey, stripKeys } from "./key-strip";
export { type FaceKindSpec, faceKind, faceKinds, formOf, isControl, type Takes } from "./kinds";
export { FACE_PLANS, type FacePlan, makeFace } from "./make-face";
export { nextBinding } from "./next-binding";
export { type Guide, type Snapped, snapped } from "./snap";
export {
  type KeptSnapshot,
  MOST_SNAPSHOTS,
  readSnapshots,
  type Snapshot,
  snapshotOf,
  withSnapshot,
} from "./snapshot";
export { colourOf, contrast, type DialForm, faceTheme, type ThemeSpec } from "./themes";
