import localforage from "localforage";

const store = (name: string) => localforage.createInstance({ name: "vise", storeName: name });

/** Instruments by id: where the parts of each document lie; the parts by `<id>/part/…`, the list of kept versions by `<id>/versions`. */
export const instruments = store("instruments");
/** What the library shows of each instrument, by id, so that its list never reads whole documents. */
export const index = store("index");
/** Audio files by the SHA-256 of their content, as blobs that can be read in part. */
export const blobs = store("blobs");
/** Recordings in progress: chunks of samples by `<recording>/<number>`, and `<recording>` itself for what they are. */
export const recordings = store("recordings");
/** Small things: which instrument was open, whether the demo was installed. */
export const settings = store("settings");
