import { SURE } from "../../analysis";
import type { Sample } from "../../instrument";
import type { EvidentSound } from "./weigh";

/** What is known of a sample before its name is read: its path, its pitch where that is sure, its level, and the root and range that its file gives. */
export const evidenceOf = (sample: Sample): EvidentSound => ({
  path: sample.file?.path ?? sample.name,
  pitch: sample.confidence >= SURE ? sample.pitch : null,
  loudness: sample.loudness,
  root: sample.file?.root == null ? null : Math.round(sample.file.root),
  range: sample.file?.range ?? null,
});
