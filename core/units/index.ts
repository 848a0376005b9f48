export { BEATS, beatsOf } from "./beat";
export { choiceAt, choiceIds, defaultParams, isUnitKind, type ParamsOf, UNITS, type UnitKind, unitSpec } from "./list";
export { number } from "./number";
export type { UnitRole, UnitSpec } from "./unit";
