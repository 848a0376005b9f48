import { type Fault, type Instrument, listZones, migrate, withoutDead } from "../../core/instrument";
import { joinDocument, partNames, splitDocument } from "./document-parts";
import { index, instruments } from "./stores";

/** What the library shows of an instrument. */
export interface LibraryEntry {
  readonly id: string;
  readonly name: string;
  readonly maker: string;
  readonly zones: number;
  readonly takes: number;
  readonly changed: number;
}

/** Where a document's parts lie. Whatever isn't named by an instrument or a version is left over from a crash, and swept. */
interface Head {
  readonly changed: number;
  /** Key of each part, by its name. */
  readonly parts: Readonly<Record<string, string>>;
}

/** A document as it was kept at some time. */
export interface Version {
  readonly id: string;
  readonly when: number;
  /** What it was kept for, in words: its owner's name for it, or what came after it. */
  readonly name: string;
  /** Whether its owner kept it by hand: such a one is never thinned out. */
  readonly byHand: boolean;
  readonly head: Head;
}

/** How documents were stored at first: whole. */
interface Whole {
  readonly changed: number;
  readonly document: Instrument;
}

/** What was stored, with the document that it was made of: the next saving writes only what differs from it. */
export interface Saved {
  readonly document: Instrument;
  readonly head: Head;
}

/** A stored document, read and checked; `faults` is what was put right. */
export interface Loaded {
  readonly instrument: Instrument;
  readonly faults: readonly Fault[];
  /** What the next saving may build upon; null where it must write everything. */
  readonly saved: Saved | null;
}

/** A stored document that can only be opened with a loss: what that is, and the document as it is stored. */
export class BrokenInstrument extends Error {
  constructor(
    readonly title: string,
    readonly faults: readonly Fault[],
    readonly raw: unknown,
  ) {
    const first = faults.find((f) => f.loses);
    super(`the instrument “${title}” can't be read: ${first ? `${first.path} ${first.problem}` : "nothing is there"}`);
  }
}

const versionsKey = (id: string) => `${id}/versions`;
const isHead = (stored: Head | Whole): stored is Head => "parts" in stored;

const entryOf = (document: Instrument, changed: number): LibraryEntry => ({
  id: document.id,
  name: document.about.name,
  maker: document.about.maker,
  zones: listZones(document).length,
  takes: document.takes.length,
  changed,
});

/** All instruments, the last changed first; only those that were stored before there was an index are read. */
export async function listInstruments(): Promise<LibraryEntry[]> {
  const ids = (await instruments.keys()).filter((key) => !key.includes("/"));
  const entries: LibraryEntry[] = [];
  for (const id of ids) {
    const known = await index.getItem<LibraryEntry>(id);
    if (known) {
      entries.push(known);
      continue;
    }
    const stored = await instruments.getItem<Head | Whole>(id);
    if (!stored) continue;
    const document = (await documentOf(stored)) as Instrument;
    const made = entryOf(document, stored.changed);
    await index.setItem(id, made);
    entries.push(made);
  }
  return entries.sort((a, b) => b.changed - a.changed);
}

/** The document of a head as it was stored. */
async function documentOf(stored: Head | Whole): Promise<unknown> {
  if (!isHead(stored)) return stored.document;
  const parts = new Map<string, unknown>();
  for (const [name, key] of Object.entries(stored.parts)) {
    const part = await instruments.getItem(key);
    if (part !== null) parts.set(name, part);
  }
  return parts.has("rest") ? joinDocument(parts) : null;
}

function checked(id: string, raw: unknown, repair: boolean): Loaded {
  const { instrument, faults } = migrate(raw);
  const title = (raw as Instrument | null)?.about?.name ?? id;
  if (!instrument || (!repair && faults.some((f) => f.loses))) throw new BrokenInstrument(title, faults, raw);
  return { instrument: instrument.id === id ? instrument : { ...instrument, id }, faults, saved: null };
}

/** Whether an instrument is stored in this browser. */
export const isStored = async (id: string): Promise<boolean> => (await instruments.getItem(id)) !== null;

/** The instrument of an id; null when there is none. Throws BrokenInstrument where it can only be read with a loss, unless `repair` allows that. */
export async function loadInstrument(id: string, repair = false): Promise<Loaded | null> {
  const stored = await instruments.getItem<Head | Whole>(id);
  if (!stored) return null;
  const loaded = checked(id, await documentOf(stored), repair);
  const sound = isHead(stored) && loaded.faults.length === 0;
  return sound ? { ...loaded, saved: { document: loaded.instrument, head: stored } } : loaded;
}

/** A kept version of an instrument. */
export const loadVersion = async (id: string, version: Version): Promise<Instrument> =>
  checked(id, await documentOf(version.head), true).instrument;

let stamps = 0;
const freshKey = (id: string, part: string): string =>
  `${id}/part/${part}/${Date.now().toString(36)}-${(++stamps).toString(36)}-${Math.random().toString(36).slice(2, 8)}`;

/**
 * Stores a document: the parts that differ from what was saved before, under new keys, and then the head that names them, so that a crash
 * leaves either the old document or the new one.
 */
export async function saveInstrument(document: Instrument, before: Saved | null = null): Promise<Saved> {
  const { id } = document;
  const prior = before?.document.id === id ? before : null;
  const changed = splitDocument(document, prior?.document ?? null);
  const parts: Record<string, string> = {};
  for (const name of partNames(document)) {
    const known = prior?.head.parts[name];
    if (!changed.has(name) && known) {
      parts[name] = known;
      continue;
    }
    const key = freshKey(id, name);
    await instruments.setItem(key, changed.get(name) ?? splitDocument(document).get(name));
    parts[name] = key;
  }
  const head: Head = { changed: Date.now(), parts };
  await instruments.setItem(id, head);
  await index.setItem(id, entryOf(document, head.changed));
  if (prior) {
    const kept = await keptKeys(id, head);
    for (const key of Object.values(prior.head.parts)) if (!kept.has(key)) await instruments.removeItem(key);
  }
  return { document, head };
}

/** The keys of all parts that the instrument or one of its versions needs. */
async function keptKeys(id: string, head: Head | null): Promise<Set<string>> {
  const versions = await listVersions(id);
  return new Set([head, ...versions.map((v) => v.head)].flatMap((h) => (h ? Object.values(h.parts) : [])));
}

/** Removes the parts that nothing names, as a crash leaves them. Call it only while nobody else writes the instrument. */
export async function sweepParts(id: string): Promise<void> {
  const stored = await instruments.getItem<Head | Whole>(id);
  const kept = await keptKeys(id, stored && isHead(stored) ? stored : null);
  for (const key of await instruments.keys())
    if (key.startsWith(`${id}/part/`) && !kept.has(key)) await instruments.removeItem(key);
}

/** The kept versions of an instrument, the newest first. */
export const listVersions = async (id: string): Promise<Version[]> =>
  (await instruments.getItem<Version[]>(versionsKey(id))) ?? [];

const MINUTE = 60000;
const HOUR = 60 * MINUTE;
const DAY = 24 * HOUR;
/** How far apart versions that keep themselves may lie, by their age: up to `age`, one for each `step`. */
const THIN: readonly { readonly age: number; readonly step: number }[] = [
  { age: HOUR, step: MINUTE },
  { age: DAY, step: HOUR },
  { age: 14 * DAY, step: DAY },
  { age: 365 * DAY, step: 14 * DAY },
];

/** Leaves out versions that lie too close together for their age; those kept by hand all stay. Newest first, as they come. */
export function thinVersions(versions: readonly Version[], now: number): Version[] {
  let last = Number.POSITIVE_INFINITY;
  return versions.filter((version) => {
    if (version.byHand) return true;
    const rule = THIN.find(({ age }) => now - version.when <= age);
    if (!rule || last - version.when < rule.step) return false;
    last = version.when;
    return true;
  });
}

/** Keeps what is stored of an instrument as a version; one that would be the same as the newest is not kept again, unless by hand. */
export async function keepVersion(id: string, name: string, byHand: boolean): Promise<Version[]> {
  let stored = await instruments.getItem<Head | Whole>(id);
  if (!stored) return [];
  if (!isHead(stored)) {
    // Stored whole, from before there were parts.
    const { document } = stored;
    stored = (await saveInstrument(withoutDead(document))).head;
  }
  const head = stored;
  const versions = await listVersions(id);
  const same = (v: Version) => Object.entries(head.parts).every(([part, key]) => v.head.parts[part] === key);
  if (!byHand && versions[0] && same(versions[0])) return versions;
  const when = Date.now();
  const version: Version = { id: `v${when.toString(36)}`, when, name, byHand, head };
  return writeVersions(id, thinVersions([version, ...versions], when));
}

/** Removes a kept version. */
export const removeVersion = async (id: string, version: string): Promise<Version[]> =>
  writeVersions(
    id,
    (await listVersions(id)).filter((v) => v.id !== version),
  );

async function writeVersions(id: string, versions: Version[]): Promise<Version[]> {
  await instruments.setItem(versionsKey(id), versions);
  await sweepParts(id);
  return versions;
}

/** Deletes an instrument with its versions, whether it can be read or not; returns how to put it back as it was. */
export async function deleteInstrument(id: string): Promise<() => Promise<void>> {
  const keys = (await instruments.keys()).filter((key) => key === id || key.startsWith(`${id}/`));
  const stored = new Map<string, unknown>();
  for (const key of keys) stored.set(key, await instruments.getItem(key));
  const entry = await index.getItem(id);
  // Its head first: without it the rest is nothing.
  for (const key of [id, ...keys.filter((k) => k !== id)]) await instruments.removeItem(key);
  await index.removeItem(id);
  return async () => {
    for (const [key, value] of stored) if (key !== id) await instruments.setItem(key, value);
    if (stored.has(id)) await instruments.setItem(id, stored.get(id));
    if (entry !== null) await index.setItem(id, entry);
  };
}

/** The SHA-256 of all audio that an instrument or one of its versions uses. */
export async function audioOf(id: string): Promise<Set<string>> {
  const used = new Set<string>();
  const add = (raw: unknown) => {
    const doc = raw as Partial<Instrument> | null;
    for (const { sha } of [...(doc?.takes ?? []), ...(doc?.samples ?? [])]) used.add(sha);
    // Documents of before have no inserts and no sends.
    const units = [
      ...(doc?.effects ?? []),
      ...(doc?.sends ?? []).flatMap((s) => s.units),
      ...(doc?.layers ?? []).flatMap((l) => l.inserts ?? []),
    ];
    for (const { sample } of units) if (sample) used.add(sample);
  };
  const stored = await instruments.getItem<Head | Whole>(id);
  if (stored) add(await documentOf(stored));
  for (const { head } of await listVersions(id)) add(await documentOf(head));
  return used;
}
