export { type Flux, findAttacks, measureFlux } from "./attacks";
export { type Levels, measureLevels, type Progress } from "./levels";
export { bandEdge, LiveMeasures, type Measured } from "./live-measures";
export { harmonicLevels, lastCycles } from "./live-wave";
export { logSpectrum, SPECTRUM_FROM, SPECTRUM_POINTS } from "./log-spectrum";
export { integratedLoudness, loudnessOf } from "./loudness";
export { doubtsOf, type MeasuredSlice, measureSlices, SliceMeter, SURE } from "./measure";
export { type FoundMode, findModes, hitOf, type ModeSearch } from "./modes";
export { type FoundPartial, findPartials, type PartialSearch } from "./partial-tracks";
export { type Pitch, PitchFinder, pitchFinderOf } from "./pitch";
export { factsOfSample, type SampleFacts } from "./sample-facts";
export {
  FIND_DEFAULTS,
  type FindOptions,
  type FoundSlice,
  findSlices,
  sliceAtAttacks,
  sliceAtMarkers,
  sliceByGrid,
} from "./slices";
export { Spectrum } from "./spectrum";
export { type SpectralPeak, type StrikeNote, spectralPeaks, strikeNotes } from "./strike-note";
export { strobe } from "./strobe";
