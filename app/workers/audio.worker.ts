import { expose } from "comlink";
import { finding } from "./audio/finding";
import { opening } from "./audio/opening";
import { sampling } from "./audio/sampling";
import { shipping } from "./audio/shipping";

/** The worker in which audio is decoded, analysed and rendered. */
const worker = { ...opening, ...finding, ...sampling, ...shipping };

export type AudioWorker = typeof worker;
expose(worker);
