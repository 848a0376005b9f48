export { BEATS, beatsOf } from "./beat";
export {
  choiceAt,
  choiceIds,
  defaultParams,
  isUnitKind,
  kindsAt,
  type ParamsOf,
  UNITS,
  type UnitKind,
  unitSpec,
} from "./list";
export { number } from "./number";
export type { Block, BlockUnit, Place, UnitRole, UnitSpec } from "./unit";
