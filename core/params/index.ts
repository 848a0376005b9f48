export { foundBy } from "./everyday";
export { few, grouped, plural } from "./plural";
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
  valueAt,
} from "./spec";
export {
  amountRange,
  formatAmount,
  formatNumber,
  formatValue,
  parseAmount,
  parseNumber,
  parseValue,
  typedBeyond,
} from "./text";
