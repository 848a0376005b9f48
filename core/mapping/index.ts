export { type Placement, placeSamples } from "./place";
export { clusterLevels, overallDetune, type Placeable, type Sorted, type Sorting, sortSounds } from "./sort";
export { type KeyRange, type SpreadMode, type SpreadOptions, spreadRoots } from "./spread";
export { mergeSlices, newTake, searchTake, sliceId, slicesOf } from "./take";
