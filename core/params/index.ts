export { grouped, plural } from "./plural";
export {
  choiceAt,
  choiceIds,
  defaultParams,
  isUnitKind,
  type ParamsOf,
  UNITS,
  type UnitKind,
  unitSpec,
} from "./registry";
export {
  type ChoiceParam,
  clampValue,
  type ModKind,
  modulated,
  type NumberParam,
  type ParamSpec,
  type ParamUnit,
  type ParamValue,
  travelOf,
  type UnitRole,
  type UnitSpec,
  valueAt,
} from "./spec";
export { amountRange, formatAmount, formatNumber, formatValue, parseAmount, parseNumber, parseValue } from "./text";
export { BEATS, beatsOf } from "./units/beat";
export { number } from "./units/number";
