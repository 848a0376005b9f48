export { readAiff } from "./aiff-read";
export { writeAiff } from "./aiff-write";
export { readFlac } from "./flac-read";
export { writeFlac } from "./flac-write";
export { type FormatCode, FormatError } from "./format-error";
export { sha256Of, sha256OfParts } from "./hash";
export { instrumentJsonSchema } from "./json-schema";
export { centsOfSlice, type MadeSample, makeSample, noteOfSlice, pitchOfSlice, samplerOf } from "./make-sample";
export { readMidi, type Song, type SongEvent } from "./midi-read";
export {
  BrokenDocument,
  damagedPackage,
  EntryGuard,
  guardPackage,
  looksLikeZip,
  missingAudio,
  type OpenedPackage,
  PACKAGE_DATE,
  PACKAGE_DOCUMENT,
  PACKAGE_EXTENSION,
  packedDocument,
  packedInstrument,
  readDocument,
  readPackage,
  sampleFile,
  sampleProblem,
  writePackage,
} from "./package";
export type { Broadcast, FileLoop, RiffExtras, WavInstrument, WavSampler } from "./riff-chunks";
export type { SoundExtras } from "./riff-write";
export { type FileSample, isRecording, sampleOfFile, storedOf } from "./sample-of-file";
export { type KeyboardMapping, readMapping, readScale, type Scale, tuneKeys } from "./scala";
export {
  folderOf,
  insidePath,
  instrumentOfSfz,
  type OpenedSfz,
  programOf,
  readSfzText,
  type SfzLoss,
  type SfzProgram,
  type WrittenSfz,
  writeSfz,
} from "./sfz";
export { factsOfSlice, namesOfSlices, proposeNames } from "./slice-names";
export { readSound, type SoundKind, soundKindOf } from "./sound-file";
export { nothingSaid, type SoundFile, type SoundInfo } from "./sound-info";
export { textOf } from "./text-of";
export { type NoiseMemory, soundOfSlice } from "./treat-slice";
export {
  decodeWav,
  readWav,
  readWavInfo,
  type WavFile,
  type WavInfo,
} from "./wav-read";
export { type WavDepth, type WavExtras, wavData, wavHead, writeWav } from "./wav-write";
