export {
  checkMap,
  FINDING_KINDS,
  FINDING_TITLES,
  type Finding,
  type FindingKind,
  repairs,
} from "./check";
export { type KeyAnswer, keyAnswers, mappedKeys, soundingKeys } from "./coverage";
export { bothEnds, everyStrength, type Stroke } from "./every-strength";
export {
  type Boundary,
  type BulkChange,
  bulkValues,
  type ChoosingRule,
  crossfadeZones,
  type DraggedPart,
  dragZones,
  parseBulk,
  RULE_FIELDS,
  RULE_TESTS,
  type RuleField,
  type RuleTest,
  shiftedCopy,
  velocityLayers,
  type ZoneDrag,
  zonesBeside,
  zonesWhere,
} from "./field";
export { HANDS_FREE, HANDS_FREE_LIMITS, type HandsFree, settleHandsFree } from "./hands-free";
export { judgeShot, type Landed, type ShotVerdict } from "./judge-shot";
export { isKitBy } from "./kit";
export { type KeyStep, keysFrom } from "./lay-out";
export { folderOf, type Laid, type Laying, layEdit } from "./lay-samples";
export {
  NAME_PRESETS,
  type NameFacts,
  nameAll,
  nameByPattern,
  PLACEHOLDERS,
  type ProposedName,
  usableNames,
  withoutExtension,
} from "./names";
export { type Normalising, normalisingGains } from "./normalise";
export { placeSamples, placeSounds } from "./place";
export type { PlacedGroup, Placement, PlaceSound } from "./place-parts";
export { type PlaceInto, placementEdit } from "./placement-edit";
export {
  type AppliedReading,
  applyReading,
  type EvidentSound,
  evidenceOf,
  fixRole,
  type NamedSound,
  type NameReading,
  patternOf,
  type Reading,
  type ReadPiece,
  ROLES,
  type Role,
  readByPattern,
  readNames,
  tokenOf,
  type Weighed,
  weigh,
} from "./reading";
export { type Relinked, relink } from "./relink";
export { type Captured, type FollowState, ShotFollower } from "./shot-follower";
export { makeShots, nameOfStrength, nextShot, noteRange, readPlan, type ShotPlan, type TypedPlan } from "./shots";
export { phraseOfSlices, sliceZones } from "./slice-keys";
export { overallDetune, type Placeable, type Sorted, type Sorting, sortSounds } from "./sort";
export {
  isWanted,
  type Matrix,
  type MatrixRow,
  matrixOf,
  oddOnes,
  type SliceRole,
  type SortedSlices,
  sortByMeasure,
  sortByNames,
  sortByPlan,
  sortByShots,
} from "./sort-slices";
export { type KeyRange, type SpreadMode, type SpreadOptions, spreadRoots } from "./spread";
export { type SpreadZone, spreadZones, type ZoneSpread, type ZoneSpreadOptions } from "./spread-zones";
export { mergeSlices, searchTake, sliceId, slicesOf } from "./take";
export { saysGone, whatGoes } from "./what-goes";
export { type ReadZoneTable, readZoneTable, zoneTable } from "./zone-table";
