import localforage from "localforage";

const DATABASE = "vise";
const NAMES = ["instruments", "index", "blobs", "recordings", "settings", "touched"] as const;
/** In which localForage tries whether blobs can be stored. */
const TRIED = "local-forage-detect-blob-support";

const open = (version?: number): Promise<IDBDatabase> =>
  new Promise((resolve, reject) => {
    const request = indexedDB.open(DATABASE, version);
    request.onupgradeneeded = () => {
      const there = request.result.objectStoreNames;
      for (const name of [...NAMES, TRIED]) if (!there.contains(name)) request.result.createObjectStore(name);
    };
    request.onsuccess = () => resolve(request.result);
    request.onerror = () => reject(request.error);
  });

/**
 * Makes all stores of the database at once, before any of them is used. Left to itself localForage adds each store as it is first used, by a new version of
 * the database, for which all others have to let go of it: page and workers that begin at the same time can then wait for one another for ever.
 */
async function makeStores(): Promise<void> {
  const database = await open();
  const whole = NAMES.every((name) => database.objectStoreNames.contains(name));
  const { version } = database;
  database.close();
  // One that an older Vise made may lack some.
  if (!whole) (await open(version + 1)).close();
}

let made: Promise<void> | null = null;

function store(name: (typeof NAMES)[number]): LocalForage {
  const instance = localforage.createInstance({ name: DATABASE, storeName: name });
  const ready = instance.ready.bind(instance);
  instance.ready = async () => {
    // Where the browser gives no database, localForage says so itself.
    made ??= makeStores().catch(() => {});
    await made;
    return ready();
  };
  return instance;
}

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

/** When each audio file was stored last, or asked to be, by SHA-256. */
const touches = store("touched");

let blobDatabase: Promise<IDBDatabase> | null = null;

/** The database of audio files, by itself; it lets go of it when another tab wants to change its form. */
async function databaseOfBlobs(): Promise<IDBDatabase> {
  await blobs.ready();
  blobDatabase ??= open().then((database) => {
    const letGo = () => {
      database.close();
      blobDatabase = null;
    };
    database.onversionchange = letGo;
    database.onclose = letGo;
    return database;
  });
  try {
    return await blobDatabase;
  } catch (error) {
    // The next who asks tries again.
    blobDatabase = null;
    throw error;
  }
}

/** Does something with audio files and what is known of them in one transaction, all of it or nothing. */
async function withBlobs(work: (blobs: IDBObjectStore, touched: IDBObjectStore) => void): Promise<void> {
  const transaction = (await databaseOfBlobs()).transaction(["blobs", "touched"], "readwrite");
  const done = new Promise<void>((resolve, reject) => {
    transaction.oncomplete = () => resolve();
    transaction.onabort = () => reject(transaction.error ?? new Error("the browser gave up storing"));
  });
  work(transaction.objectStore("blobs"), transaction.objectStore("touched"));
  return done;
}

/**
 * Stores some blobs in one transaction, all of them or none; those that are there already are not written again. All of them count as wanted from now:
 * what will name them is yet to be stored. What a transaction costs grows with the number of blobs that are stored, so that thousands are not to be
 * stored one by one.
 */
export const addBlobs = (files: ReadonlyMap<string, Blob>, now = Date.now()): Promise<void> =>
  withBlobs((kept, touched) => {
    for (const [sha, blob] of files) {
      touched.put(now, sha);
      const known = kept.getKey(sha);
      known.onsuccess = () => {
        if (known.result === undefined) kept.put(blob, sha);
      };
    }
  });

/** Removes those blobs that nobody has stored again since a time; returns which they were. */
export async function removeBlobs(shas: Iterable<string>, since: number): Promise<ReadonlySet<string>> {
  const removed = new Set<string>();
  await withBlobs((kept, touched) => {
    for (const sha of shas) {
      const asked = touched.get(sha);
      asked.onsuccess = () => {
        if (typeof asked.result === "number" && asked.result >= since) return;
        kept.delete(sha);
        touched.delete(sha);
        removed.add(sha);
      };
    }
  });
  return removed;
}

/** The SHA-256 of the blobs that were stored, or stored again, since a time. */
export async function blobsTouched(since: number): Promise<ReadonlySet<string>> {
  const recent = new Set<string>();
  await touches.iterate<number, void>((when, sha) => {
    if (when >= since) recent.add(sha);
  });
  return recent;
}
