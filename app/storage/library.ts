import { type Fault, type Instrument, listZones, migrate, withoutDead } from "../../core/instrument";
import { joinDocument, partNames, splitDocument } from "./document-parts";
import { index, instruments } from "./stores";

/**
 * How instruments lie in storage, and the laws that keep them whole (`writing.test.ts` tries them with two tabs, failing writes and kills):
 *
 * 1. Only who holds an instrument's lock writes or removes anything of it; who doesn't reads, and reads the head again where a part is gone meanwhile.
 * 2. Who wants to write holds the lock first and reads then: what was read before may be another's past.
 * 3. Parts are written under fresh keys, then the head that names them, then what nothing names any more is removed.
 * 4. A write that fails leaves nothing behind but what was there before it.
 * 5. What a head names, of the instrument or of any of its versions, is never removed; nor is audio that any of them names.
 */

/** What the library shows of an instrument. */
export interface LibraryEntry {
  readonly id: string;
  readonly name: string;
  readonly maker: string;
  readonly zones: number;
  readonly takes: number;
  readonly changed: number;
  /** When it was deleted; what was is kept for a month, whole. */
  readonly deleted?: number;
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
  /** When it was removed; it can be taken back for a month. */
  readonly removed?: number;
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

/** All that is known of instruments, deleted ones too; only those that were stored before there was an index are read. */
async function allEntries(): Promise<LibraryEntry[]> {
  const ids = (await instruments.keys()).filter((key) => !key.includes("/"));
  const entries: LibraryEntry[] = [];
  for (const id of ids) {
    const known = await index.getItem<LibraryEntry>(id);
    if (known) {
      entries.push(known);
      continue;
    }
    const made = await entryOfStored(id);
    if (!made) continue;
    await index.setItem(id, made);
    entries.push(made);
  }
  return entries.sort((a, b) => b.changed - a.changed);
}

async function entryOfStored(id: string): Promise<LibraryEntry | null> {
  const read = await readStored(id);
  if (!read) return null;
  try {
    return entryOf(read.raw as Instrument, read.stored.changed);
  } catch {
    // One that can't be read has no numbers; it is still there.
    return { id, name: id, maker: "", zones: 0, takes: 0, changed: read.stored.changed };
  }
}

/** The instruments that are there, the last changed first. */
export const listInstruments = async (): Promise<LibraryEntry[]> => (await allEntries()).filter((e) => !e.deleted);

/** The instruments that were deleted and can be taken back, the last deleted first. */
export const listDeleted = async (): Promise<LibraryEntry[]> =>
  (await allEntries()).filter((e) => e.deleted).sort((a, b) => (b.deleted ?? 0) - (a.deleted ?? 0));

/** A document of a head as it was stored, and the names of those parts of it that aren't there. */
async function documentOf(stored: Head | Whole): Promise<{ raw: unknown; missing: readonly string[] }> {
  if (!isHead(stored)) return { raw: stored.document, missing: [] };
  const parts = new Map<string, unknown>();
  const missing: string[] = [];
  for (const [name, key] of Object.entries(stored.parts)) {
    const part = await instruments.getItem(key);
    if (part === null) missing.push(name);
    else parts.set(name, part);
  }
  return { raw: parts.has("rest") ? joinDocument(parts) : null, missing };
}

const sameHead = (a: Head | Whole, b: Head | Whole): boolean =>
  isHead(a) && isHead(b) && Object.keys(a.parts).every((name) => a.parts[name] === b.parts[name]);

/** What is stored under an id. Where another tab has stored it anew while it was read, it is read again. */
async function readStored(
  id: string,
): Promise<{ readonly stored: Head | Whole; readonly raw: unknown; readonly missing: readonly string[] } | null> {
  let stored = await instruments.getItem<Head | Whole>(id);
  for (;;) {
    if (!stored) return null;
    const read = await documentOf(stored);
    if (read.missing.length === 0) return { stored, ...read };
    const now: Head | Whole | null = await instruments.getItem<Head | Whole>(id);
    if (now && sameHead(stored, now)) return { stored, ...read };
    stored = now;
  }
}

const missingFault = (part: string): Fault => ({
  path: part,
  problem: "isn't in this browser's storage any more",
  repair: "Remove it",
  loses: true,
});

function checked(id: string, raw: unknown, missing: readonly string[], repair: boolean): Loaded {
  const { instrument, faults: odd } = migrate(raw);
  const faults = [...missing.map(missingFault), ...odd];
  const title = (raw as Instrument | null)?.about?.name ?? id;
  if (!instrument || (!repair && faults.some((f) => f.loses))) throw new BrokenInstrument(title, faults, raw);
  return { instrument: instrument.id === id ? instrument : { ...instrument, id }, faults, saved: null };
}

const isDeleted = async (id: string): Promise<boolean> =>
  (await index.getItem<LibraryEntry>(id))?.deleted !== undefined;

/** Whether an instrument is in this browser, and not deleted. */
export const isStored = async (id: string): Promise<boolean> =>
  (await instruments.getItem(id)) !== null && !(await isDeleted(id));

/** The instrument of an id; null when there is none. Throws BrokenInstrument where it can only be read with a loss, unless `repair` allows that. */
export async function loadInstrument(id: string, repair = false): Promise<Loaded | null> {
  const read = (await isDeleted(id)) ? null : await readStored(id);
  if (!read) return null;
  const { stored, raw, missing } = read;
  const loaded = checked(id, raw, missing, repair);
  const sound = isHead(stored) && loaded.faults.length === 0;
  return sound ? { ...loaded, saved: { document: loaded.instrument, head: stored } } : loaded;
}

/** A kept version of an instrument. */
export async function loadVersion(id: string, version: Version): Promise<Instrument> {
  const { raw, missing } = await documentOf(version.head);
  return checked(id, raw, missing, true).instrument;
}

let stamps = 0;
const freshKey = (id: string, part: string): string =>
  `${id}/part/${part}/${Date.now().toString(36)}-${(++stamps).toString(36)}-${Math.random().toString(36).slice(2, 8)}`;

/** Writes the parts of a document that differ from those of one before it, under new keys; what it wrote is taken away again where it fails. */
async function writeParts(document: Instrument, prior: Saved | null): Promise<Head> {
  const { id } = document;
  const changed = splitDocument(document, prior?.document ?? null);
  const parts: Record<string, string> = {};
  const fresh: string[] = [];
  try {
    for (const name of partNames(document)) {
      const known = prior?.head.parts[name];
      if (!changed.has(name) && known) {
        parts[name] = known;
        continue;
      }
      const key = freshKey(id, name);
      fresh.push(key);
      await instruments.setItem(key, changed.get(name) ?? splitDocument(document).get(name));
      parts[name] = key;
    }
  } catch (error) {
    // Each new try would leave as much behind, on a disk that is full already.
    await removeKeys(fresh);
    throw error;
  }
  return { changed: Date.now(), parts };
}

/** Removes what nothing names; what can't be removed now is swept later. */
async function removeKeys(keys: Iterable<string>): Promise<void> {
  for (const key of keys) await instruments.removeItem(key).catch(() => {});
}

/**
 * Stores a document: the parts that differ from what was saved before, and then the head that names them, so that a crash leaves either the old
 * document or the new one. Only for who holds the instrument.
 */
export async function saveInstrument(document: Instrument, before: Saved | null = null): Promise<Saved> {
  const { id } = document;
  const prior = before?.document.id === id ? before : null;
  const head = await writeParts(document, prior);
  const fresh = Object.values(head.parts).filter((key) => !prior || !Object.values(prior.head.parts).includes(key));
  try {
    await instruments.setItem(id, head);
  } catch (error) {
    await removeKeys(fresh);
    throw error;
  }
  await index.setItem(id, entryOf(document, head.changed));
  if (prior) {
    const kept = await keptKeys(id, head);
    await removeKeys(Object.values(prior.head.parts).filter((key) => !kept.has(key)));
  }
  return { document, head };
}

/** The keys of all parts that the instrument or one of its versions needs. */
async function keptKeys(id: string, head: Head | null): Promise<Set<string>> {
  const versions = await allVersions(id);
  return new Set([head, ...versions.map((v) => v.head)].flatMap((h) => (h ? Object.values(h.parts) : [])));
}

/** Removes the parts that nothing names, as a crash leaves them. Only for who holds the instrument. */
export async function sweepParts(id: string): Promise<void> {
  const stored = await instruments.getItem<Head | Whole>(id);
  const kept = await keptKeys(id, stored && isHead(stored) ? stored : null);
  for (const key of await instruments.keys())
    if (key.startsWith(`${id}/part/`) && !kept.has(key)) await instruments.removeItem(key);
}

const allVersions = async (id: string): Promise<Version[]> =>
  (await instruments.getItem<Version[]>(versionsKey(id))) ?? [];

/** The kept versions of an instrument, the newest first. */
export const listVersions = async (id: string): Promise<Version[]> =>
  (await allVersions(id)).filter((v) => v.removed === undefined);

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
/** For how long what was removed can be taken back. */
export const KEPT_AFTER_REMOVAL = 30 * DAY;

/**
 * Leaves out versions that lie too close together for their age: time is parted into steps that begin at the same moments whatever comes, and of each
 * step the oldest stays, so that a newcomer never takes another's place. The two newest and those kept by hand stay. Newest first, as they come.
 */
export function thinVersions(versions: readonly Version[], now: number): Version[] {
  const taken = new Set<string>();
  const stay = new Set<Version>();
  for (const version of [...versions].reverse()) {
    if (version.removed !== undefined) {
      if (now - version.removed <= KEPT_AFTER_REMOVAL) stay.add(version);
      continue;
    }
    const rule = THIN.find(({ age }) => now - version.when <= age);
    const step = rule && `${rule.step}/${Math.floor(version.when / rule.step)}`;
    if (version.byHand || (step && !taken.has(step))) stay.add(version);
    if (step && !version.byHand) taken.add(step);
  }
  let newest = 2;
  return versions.filter((v) => stay.has(v) || (v.removed === undefined && newest-- > 0));
}

/**
 * Keeps an instrument as a version: as it is stored, or `document` where that is another state of it, of which `saved` is stored. One that would be the
 * same as the newest is not kept again, unless by hand. Only for who holds the instrument.
 */
export async function keepVersion(
  id: string,
  name: string,
  byHand: boolean,
  document: Instrument | null = null,
  saved: Saved | null = null,
): Promise<Version[]> {
  let stored = await instruments.getItem<Head | Whole>(id);
  if (!stored) return [];
  if (!isHead(stored)) {
    // Stored whole, from before there were parts.
    stored = (await saveInstrument(withoutDead(stored.document))).head;
  }
  const head = document && document !== saved?.document ? await writeParts(document, saved) : stored;
  const versions = await allVersions(id);
  const newest = versions.find((v) => v.removed === undefined);
  const same = (v: Version) => Object.entries(head.parts).every(([part, key]) => v.head.parts[part] === key);
  if (!byHand && newest && same(newest)) return listVersions(id);
  const when = Date.now();
  const version: Version = { id: `v${when.toString(36)}-${++stamps}`, when, name, byHand, head };
  return writeVersions(id, thinVersions([version, ...versions], when));
}

/** Removes a kept version; for a month it can be taken back. Only for who holds the instrument. */
export const removeVersion = (id: string, version: string): Promise<Version[]> =>
  changeVersion(id, version, (v) => ({ ...v, removed: Date.now() }));

/** Takes a version back that was removed. Only for who holds the instrument. */
export const restoreVersion = (id: string, version: string): Promise<Version[]> =>
  changeVersion(id, version, ({ removed: _, ...v }) => v);

async function changeVersion(id: string, version: string, change: (v: Version) => Version): Promise<Version[]> {
  return writeVersions(
    id,
    (await allVersions(id)).map((v) => (v.id === version ? change(v) : v)),
  );
}

async function writeVersions(id: string, versions: Version[]): Promise<Version[]> {
  await instruments.setItem(versionsKey(id), versions);
  await sweepParts(id);
  return versions.filter((v) => v.removed === undefined);
}

/** Deletes an instrument, whether it can be read or not: it stays in storage for a month, out of sight. Only for who holds it. */
export async function deleteInstrument(id: string): Promise<void> {
  const entry = (await index.getItem<LibraryEntry>(id)) ?? (await entryOfStored(id));
  if (entry) await index.setItem(id, { ...entry, deleted: Date.now() });
}

/** Takes an instrument back that was deleted. */
export async function restoreInstrument(id: string): Promise<void> {
  const entry = await index.getItem<LibraryEntry>(id);
  if (!entry) return;
  const { deleted: _, ...back } = entry;
  await index.setItem(id, back);
}

/** Removes a deleted instrument from storage for good, with its versions. */
export async function purgeInstrument(id: string): Promise<void> {
  if (!(await isDeleted(id))) return;
  const keys = (await instruments.keys()).filter((key) => key.startsWith(`${id}/`));
  // Its head first: without it the rest is nothing.
  for (const key of [id, ...keys]) await instruments.removeItem(key);
  await index.removeItem(id);
}

/** The instruments that were deleted more than a month ago. */
export const expiredInstruments = async (now: number): Promise<string[]> =>
  (await listDeleted()).filter(({ deleted = now }) => now - deleted > KEPT_AFTER_REMOVAL).map((e) => e.id);

const SHA = /^[0-9a-f]{64}$/;

/** Every SHA-256 that stands anywhere in a stored document, whatever it is called there: what may be audio is taken for it. */
function shasIn(value: unknown, into: Set<string>): void {
  if (typeof value === "string") {
    if (value.length === 64 && SHA.test(value)) into.add(value);
  } else if (typeof value === "object" && value !== null && !ArrayBuffer.isView(value)) {
    for (const each of Object.values(value)) shasIn(each, into);
  }
}

/** The SHA-256 of all audio that an instrument or one of its versions names, removed ones too. */
export async function audioOf(id: string): Promise<Set<string>> {
  const used = new Set<string>();
  const read = await readStored(id);
  if (read) shasIn(read.raw, used);
  for (const { head } of await allVersions(id)) shasIn((await documentOf(head)).raw, used);
  return used;
}
