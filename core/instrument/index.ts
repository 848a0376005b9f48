export { changeAbout, changeRules, together } from "./about-edits";
export { changeUnit, type FoundParam, findParam, listParams, listUnits } from "./address";
export { newGroup, newId, newInstrument, newLayer, newLoop, newRoute, newUnit, newZone } from "./defaults";
export type { Edit } from "./edit";
export { addFaceItem, changeFaceItem, removeFaceItem } from "./face-edits";
export { History } from "./history";
export {
  type Curve,
  type CurvePoint,
  DOCUMENT_VERSION,
  type Face,
  type FaceItem,
  type Group,
  type Instrument,
  type Layer,
  type Loop,
  type LoopMode,
  type Route,
  type Sample,
  type Slice,
  type Take,
  type Tuning,
  type Unit,
  type Zone,
} from "./instrument";
export {
  addGroup,
  addLayer,
  changeLayer,
  moveZones,
  removeGroup,
  removeLayer,
  renameGroup,
} from "./layer-edits";
export { migrate, versionOf } from "./migrate";
export {
  addMacro,
  addRoute,
  addUnit,
  changeRoute,
  removeMacro,
  removeRoute,
  removeUnit,
  renameUnit,
  setCurve,
  setParam,
  setTuning,
} from "./param-edits";
export { type Checked, checkInstrument } from "./schema";
export { controllerOf, listSources, SOURCES, type SourceSpec } from "./sources";
export { addTake, changeSlices, changeTake, removeTake } from "./take-edits";
export { addSamples, changeZones, listZones, placeZones, removeZones, settleLoop, settleZone } from "./zone-edits";
