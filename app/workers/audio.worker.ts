import { expose } from "comlink";
import { finding } from "./audio/finding";
import { importing } from "./audio/importing";
import { opening } from "./audio/opening";
import { openingSfz } from "./audio/opening-sfz";
import { reading } from "./audio/reading";
import { sampling } from "./audio/sampling";
import { shipping } from "./audio/shipping";

/** The worker in which audio is decoded, analysed and rendered. */
const worker = { ...opening, ...openingSfz, ...importing, ...reading, ...finding, ...sampling, ...shipping };

export type AudioWorker = typeof worker;
expose(worker);
