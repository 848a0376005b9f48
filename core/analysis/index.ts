export { type Levels, measureLevels, type Progress } from "./levels";
export { loudnessOf } from "./loudness";
export { type MeasuredSlice, measureSlices, proposeKeep, SURE } from "./measure";
export { type Pitch, PitchFinder } from "./pitch";
export { FIND_DEFAULTS, type FindOptions, type FoundSlice, findSlices } from "./slices";
