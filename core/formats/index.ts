export { type FormatCode, FormatError } from "./format-error";
export { sha256Of } from "./hash";
export { instrumentJsonSchema } from "./json-schema";
export { type MadeSample, makeSample, nameSample, noteOfSlice, pitchOfSlice } from "./make-sample";
export { readMidi, type Song, type SongEvent } from "./midi-read";
export {
  looksLikeZip,
  type OpenedPackage,
  PACKAGE_EXTENSION,
  packedInstrument,
  readPackage,
  writePackage,
} from "./package";
export { type KeyboardMapping, readMapping, readScale, type Scale, tuneKeys } from "./scala";
export {
  decodeWav,
  readWav,
  readWavInfo,
  type WavFile,
  type WavInfo,
  type WavInstrument,
  type WavSampler,
} from "./wav-read";
export { type WavDepth, writeWav } from "./wav-write";
