import { expose } from "comlink";
import { listInstruments, loadInstrument } from "../storage/library";

/** Reading documents takes long where they are large: every value of them is checked. */
const api = { listInstruments, loadInstrument };

export type DocumentWorker = typeof api;

expose(api);
