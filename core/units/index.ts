export { BEATS, beatsOf } from "./beat";
export {
  choiceAt,
  choiceIds,
  defaultParams,
  isUnitKind,
  kindsAt,
  type ParamId,
  type ParamsOf,
  type ParamValues,
  UNITS,
  type UnitKind,
  unitSpec,
} from "./list";
export { isLocked, LOCKED } from "./locked";
export { number } from "./number";
export { type Preset, presetsOf } from "./presets";
export { type ReferenceLine, type ReferenceUnit, reference } from "./reference";
export { type Formant, formantsOf } from "./stages/vowel";
export type {
  Block,
  BlockUnit,
  CellRows,
  Place,
  Read,
  TableRow,
  TableSpec,
  UnitRole,
  UnitSpec,
  VoiceCell,
} from "./unit";
export { both } from "./unit";
