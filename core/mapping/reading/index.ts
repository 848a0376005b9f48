export { type Manner, ROLES, type Role } from "./meanings";
export {
  type AppliedReading,
  applyReading,
  type NamedSound,
  type NameReading,
  type Reading,
  type ReadPiece,
  readNames,
} from "./read-names";
export { type EvidentSound, type Weighed, weigh } from "./weigh";
