export { type AppliedReading, applyReading } from "./apply-reading";
export { evidenceOf } from "./evidence";
export { fixRole } from "./fix-role";
export { type Manner, ROLES, type Role, tokenOf } from "./meanings";
export { type NamePattern, parsePattern } from "./pattern";
export { patternOf, readByPattern } from "./patterns";
export { readNames } from "./read-names";
export type { NamedSound, NameReading, Reading, ReadPiece } from "./reading";
export { type EvidentSound, type Weighed, weigh } from "./weigh";
