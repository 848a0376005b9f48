export { changeAbout, changeRules, setSong, together } from "./about-edits";
export { changeUnit, type FoundParam, findParam, findUnit, listParams, listUnits } from "./address";
export { ARRANGEMENTS, type Arrangement, addArrangement } from "./arrangements";
export { pitchBeginning, punch } from "./beginnings";
export { byIdentity } from "./by-identity";
export { assetsOf, busUnits, isUnitList, type UnitList, unitsOf, withUnits } from "./chains";
export { type Checked, checkInstrument } from "./check";
export { type DeadReference, deadReferences, withoutDead } from "./dead-references";
export {
  curveOf,
  HIGHEST_TEMPO,
  LOWEST_TEMPO,
  NAMING,
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
  SONG,
  usualCurve,
} from "./defaults";
export {
  curveShape,
  documentShape,
  MOST_FLAT,
  MOST_KEPT,
  MOST_PICTURE_DATA,
  MOST_ZONES,
  tableShape,
  zoneLimits,
} from "./document-shape";
export type { Edit } from "./edit";
export {
  moving,
  newCondition,
  newFace,
  newFaceItem,
  newMove,
  newPage,
  newPictureLayer,
  PLAIN_LOOK,
} from "./face-defaults";
export {
  addFaceFont,
  addFaceItem,
  addFaceItems,
  addFacePage,
  addFacePictures,
  changeFace,
  changeFaceFont,
  changeFaceItem,
  changeFaceItems,
  changeFacePage,
  orderFaceItems,
  placeFaceItem,
  removeFaceFont,
  removeFaceItem,
  removeFaceItems,
  removeFacePage,
  removeFacePictures,
  renameFacePage,
  sizeOfPage,
} from "./face-edits";
export { bindsOf, boundTo, drawnPictures } from "./face-items";
export {
  ANCHORS,
  type Anchor,
  FACE_KINDS,
  FACE_THEMES,
  type Face,
  type FaceCondition,
  type FaceFont,
  type FaceGround,
  type FaceGuide,
  type FaceItem,
  type FaceKind,
  type FacePage,
  type FacePicture,
  type FacePlace,
  type FaceSize,
  type FaceTest,
  type FaceTheme,
  type FaceWave,
  GROUNDS,
  LAYER_WAYS,
  type LayerWay,
  type Move,
  type OwnLook,
  type PictureLayer,
  SCREENS,
  type Screen,
  TONES,
  type Tone,
} from "./face-model";
export {
  type FollowLoss,
  type FrameMap,
  followLoss,
  followLossText,
  followZone,
  frameMapOf,
  replaceSamples,
  tuneOf,
} from "./follow-sample";
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
  type SampleCut,
  type SampleFile,
  type SampleRange,
  type Search,
  type Shot,
  type Slice,
  type Song,
  type Take,
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
export { settingOf } from "./setting-of";
export { cutText, type Fault } from "./settle";
export { faultText, type Settled, settleInstrument } from "./settle-document";
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
export { formerly, unitNow } from "./words-of-before";
export {
  addSamples,
  changeZones,
  dropSamples,
  listLoopable,
  listNotes,
  listSampled,
  listUnplayed,
  listZones,
  placeZones,
  playedSamples,
  removeSamples,
  removeZones,
  renameSample,
  type SampledZone,
  settleLoop,
  settleZone,
  usedSamples,
} from "./zone-edits";
