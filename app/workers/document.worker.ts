import { expose } from "comlink";
import type { Fault } from "../../core/instrument";
import {
  audioOf,
  BrokenInstrument,
  type Loaded,
  listInstruments,
  loadInstrument,
  loadVersion,
} from "../storage/library";

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
  loadVersion,
  audioOf,

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
