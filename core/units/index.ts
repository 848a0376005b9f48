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
export { type Formant, formantsOf } from "./stages/vowel";
export type { Block, BlockUnit, Place, Read, TableRow, TableSpec, UnitRole, UnitSpec, VoiceCell } from "./unit";
