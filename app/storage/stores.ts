import localforage from "localforage";

const store = (name: string) => localforage.createInstance({ name: "vise", storeName: name });

/** Instruments by id: the document as plain JSON. */
export const instruments = store("instruments");
/** Audio files by the SHA-256 of their content, as blobs that can be read in part. */
export const blobs = store("blobs");
/** Recordings in progress: chunks of samples by `<recording>/<number>`, and `<recording>` itself for what they are. */
export const recordings = store("recordings");
/** Small things: which instrument was open, whether the demo was installed. */
export const settings = store("settings");
