import { expose } from "comlink";
import type { SampleFacts } from "../../core/analysis";
import type { Fault, Instrument } from "../../core/instrument";
import { checkMap, type Finding } from "../../core/mapping";
import { audioSizes, storedAudio } from "../storage/audio-files";
import {
  audioOf,
  BrokenInstrument,
  type Loaded,
  listDeleted,
  listInstruments,
  loadInstrument,
  loadVersion,
} from "../storage/library";
import { blobs } from "../storage/stores";

/** Why a stored document wasn't opened: what would be lost, and the document as it is stored, as text. */
export interface Failed {
  readonly id: string;
  readonly title: string;
  readonly message: string;
  readonly faults: readonly Fault[];
  readonly text: string;
}

/** Reading documents takes long where they are large: every value of them is checked. */
const api = {
  listInstruments,
  listDeleted,
  loadVersion,

  /** What is doubtful about how an instrument is mapped. */
  async checkMap(instrument: Instrument, facts: ReadonlyMap<string, SampleFacts>): Promise<Finding[]> {
    const stored = await storedAudio();
    const missing = instrument.samples.filter((s) => !stored.has(s.sha)).map((s) => s.sha);
    return checkMap(instrument, facts, new Set(missing));
  },

  /** Bytes of the audio that each instrument uses with its versions, and of what none uses, by SHA-256. What several use counts for each. */
  async audioUse(): Promise<{ of: Map<string, number>; unused: Map<string, number> }> {
    const sizes = await audioSizes(await blobs.keys());
    const unused = new Map(sizes);
    const of = new Map<string, number>();
    for (const { id } of [...(await listInstruments()), ...(await listDeleted())]) {
      let bytes = 0;
      for (const sha of await audioOf(id)) {
        bytes += sizes.get(sha) ?? 0;
        unused.delete(sha);
      }
      of.set(id, bytes);
    }
    return { of, unused };
  },

  async loadInstrument(id: string, repair = false): Promise<Loaded | Failed | null> {
    try {
      return await loadInstrument(id, repair);
    } catch (error) {
      if (!(error instanceof BrokenInstrument)) throw error;
      const { title, message, faults, raw } = error;
      return { id, title, message, faults, text: JSON.stringify(raw, null, 1) };
    }
  },
};

export type DocumentWorker = typeof api;

expose(api);
