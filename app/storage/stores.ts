import localforage from "localforage";

const DATABASE = "vise";
const NAMES = ["instruments", "index", "blobs", "recordings", "settings"] as const;
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

/**
 * Stores some blobs in one transaction, all of them or none; those that are there already are not written again. What a transaction costs grows with the
 * number of blobs that are stored, so that thousands are not to be stored one by one.
 */
export async function addBlobs(files: ReadonlyMap<string, Blob>): Promise<void> {
  const transaction = (await databaseOfBlobs()).transaction("blobs", "readwrite");
  const done = new Promise<void>((resolve, reject) => {
    transaction.oncomplete = () => resolve();
    transaction.onabort = () => reject(transaction.error ?? new Error("the browser gave up storing"));
  });
  const kept = transaction.objectStore("blobs");
  for (const [sha, blob] of files) {
    const known = kept.getKey(sha);
    known.onsuccess = () => {
      if (known.result === undefined) kept.put(blob, sha);
    };
  }
  return done;
}
