import { type Instrument, migrate } from "../../core/instrument";
import { instruments } from "./stores";

/** What the library shows of an instrument. */
export interface LibraryEntry {
  readonly id: string;
  readonly name: string;
  readonly maker: string;
  readonly zones: number;
  readonly takes: number;
  readonly changed: number;
}

interface Stored {
  readonly changed: number;
  readonly document: Instrument;
}

export async function listInstruments(): Promise<LibraryEntry[]> {
  const entries: LibraryEntry[] = [];
  await instruments.iterate<Stored, void>(({ document, changed }, id) => {
    entries.push({
      id,
      name: document.about.name,
      maker: document.about.maker,
      zones: document.layers.reduce((n, l) => n + l.groups.reduce((m, g) => m + g.zones.length, 0), 0),
      takes: document.takes.length,
      changed,
    });
  });
  return entries.sort((a, b) => b.changed - a.changed);
}

/** The instrument of an id; null when there is none. Throws an Error with the reason where it can't be read. */
export async function loadInstrument(id: string): Promise<Instrument | null> {
  const stored = await instruments.getItem<Stored>(id);
  if (!stored) return null;
  const checked = migrate(stored.document);
  if (!checked.ok)
    throw new Error(`the instrument “${stored.document.about?.name ?? id}” can't be read: ${checked.problems[0]}`);
  return checked.instrument;
}

export const saveInstrument = async (document: Instrument): Promise<void> => {
  await instruments.setItem<Stored>(document.id, { changed: Date.now(), document });
};

/** Deletes an instrument, whether it can be read or not; returns how to put it back as it was. */
export async function deleteInstrument(id: string): Promise<() => Promise<void>> {
  const stored = await instruments.getItem(id);
  await instruments.removeItem(id);
  return async () => {
    if (stored !== null) await instruments.setItem(id, stored);
  };
}
