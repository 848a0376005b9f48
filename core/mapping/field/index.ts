export { type BulkChange, bulkValues, parseBulk } from "./bulk-change";
export {
  type ChoosingRule,
  RULE_FIELDS,
  RULE_TESTS,
  type RuleField,
  type RuleTest,
  velocityLayers,
  zonesWhere,
} from "./choose-zones";
export { crossfadeZones } from "./crossfade-zones";
export { type Boundary, type DraggedPart, dragZones, shiftedCopy, type ZoneDrag, zonesBeside } from "./drag-zones";
