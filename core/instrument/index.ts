export { changeAbout, changeRules, together } from "./about-edits";
export { changeUnit, type FoundParam, findParam, listParams, listUnits } from "./address";
export { newId, newInstrument, newLayer, newUnit, newZone } from "./defaults";
export type { Edit } from "./edit";
export { addFaceItem, changeFaceItem, removeFaceItem } from "./face-edits";
export { History } from "./history";
export {
  DOCUMENT_VERSION,
  type Face,
  type FaceItem,
  type Group,
  type Instrument,
  type Layer,
  type Loop,
  type Route,
  type Sample,
  type Slice,
  type Take,
  type Unit,
  type Zone,
} from "./instrument";
export { migrate, versionOf } from "./migrate";
export { addMacro, addRoute, changeRoute, removeMacro, removeRoute, renameUnit, setParam } from "./param-edits";
export { type Checked, checkInstrument } from "./schema";
export { listSources, SOURCES, type SourceSpec } from "./sources";
export { addTake, changeSlices, changeTake, removeTake } from "./take-edits";
export { addSamples, changeZones, listZones, placeZones, removeZones, settleZone } from "./zone-edits";
