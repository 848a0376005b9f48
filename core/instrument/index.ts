export { changeAbout, changeRules, together } from "./about-edits";
export { changeUnit, type FoundParam, findParam, findUnit, listParams, listUnits } from "./address";
export { ARRANGEMENTS, type Arrangement, addArrangement } from "./arrangements";
export { pitchBeginning, punch } from "./beginnings";
export { byIdentity } from "./by-identity";
export { assetsOf, busUnits, isUnitList, type UnitList, unitsOf, withUnits } from "./chains";
export { type Checked, checkInstrument, faultText, type Settled, settleInstrument } from "./check";
export { type DeadReference, deadReferences, withoutDead } from "./dead-references";
export {
  curveOf,
  NAMING,
  newFaceItem,
  newGroup,
  newId,
  newInstrument,
  newLayer,
  newLoop,
  newRoute,
  newSample,
  newSends,
  newSlice,
  newTake,
  newUnit,
  newZone,
  SEARCH,
  SENDS,
  usualCurve,
} from "./defaults";
export { curveShape, documentShape, MOST_FLAT, MOST_KEPT, MOST_ZONES, tableShape, zoneLimits } from "./document-shape";
export type { Edit } from "./edit";
export {
  addFaceItem,
  addFaceItems,
  addFacePage,
  changeFace,
  changeFaceItem,
  changeFaceItems,
  orderFaceItems,
  removeFaceItem,
  removeFaceItems,
  removeFacePage,
  renameFacePage,
} from "./face-edits";
export { bindsOf, boundTo } from "./face-items";
export {
  addGroup,
  changeGroup,
  duplicateGroup,
  moveGroup,
  moveZones,
  partIntoGroups,
  removeGroup,
  renameGroup,
} from "./group-edits";
export { History } from "./history";
export { type Inherited, type InheritedPart, type InheritedSum, inheritedOf } from "./inherited";
export {
  type Beat,
  type Curve,
  type CurvePoint,
  DOCUMENT_VERSION,
  FACE_KINDS,
  FACE_THEMES,
  type Face,
  type FaceCondition,
  type FaceItem,
  type FaceKind,
  type FacePage,
  type FaceTheme,
  type Flattening,
  type Group,
  type Instrument,
  type Layer,
  type Loop,
  type LoopMode,
  MARKS,
  type Mark,
  type Marker,
  MOST_VARIANTS,
  type Route,
  type Sample,
  type SampleFile,
  type SampleRange,
  type Search,
  type Shot,
  type Slice,
  type Take,
  TONES,
  type Tone,
  type Tuning,
  type Unit,
  type Zone,
} from "./instrument";
export {
  addLayer,
  changeLayer,
  chosenLayer,
  duplicateLayer,
  layersOfSet,
  moveLayer,
  removeLayer,
  setSource,
} from "./layer-edits";
export {
  cutLink,
  feedInto,
  type LinkEntry,
  type LinkPicture,
  type LinkPlace,
  leadInto,
  linkEntries,
  linkPicture,
  wouldRing,
} from "./link-picture";
export { type LayerLink, linkProblem, liveLinks } from "./links";
export {
  chooseVariant,
  loopMirrored,
  setBeat,
  stretchedZone,
  variantsOf,
  withoutVariant,
  withVariant,
} from "./loop-edits";
export { migrate, versionOf } from "./migrate";
export {
  addRoute,
  addUnit,
  changeRoute,
  moveUnit,
  moveUnitTo,
  removeRoute,
  removeRows,
  removeUnit,
  renameSend,
  renameUnit,
  setCurve,
  setParam,
  setParams,
  setRoom,
  setTable,
  setTuning,
  setUnitSample,
  setUp,
} from "./param-edits";
export { addressInTable, placeInTable, rowsOf } from "./row-params";
export {
  everyNth,
  fannedOut,
  harmonics,
  pulledToHarmonics,
  pulledToOctaves,
  type RowShape,
  randomised,
  risingLater,
  sortedByRatio,
  sparingLocked,
  tilted,
} from "./row-shapes";
export { cutText, type Fault } from "./settle";
export type { Shape } from "./shape";
export { controllerOf, listSources, SOURCES, type SourceSpec } from "./sources";
export {
  addSlice,
  addSlices,
  addTake,
  changeSlices,
  changeTake,
  mergeIntoOne,
  removeSlices,
  removeTake,
  setNaming,
  setShots,
  splitSlice,
} from "./take-edits";
export {
  addSamples,
  changeZones,
  listNotes,
  listSampled,
  listZones,
  placeZones,
  playedSamples,
  removeSamples,
  removeZones,
  renameSample,
  replaceSamples,
  type SampledZone,
  settleLoop,
  settleZone,
  usedSamples,
} from "./zone-edits";
