import { plural } from "../params";
import type { Edit } from "./edit";
import type { Instrument, Shot, Slice, Take } from "./instrument";

export const addTake = (take: Take): Edit => ({
  name: `Add take ${take.name}`,
  apply: (doc) => ({ ...doc, takes: [...doc.takes, take] }),
});

export const removeTake = (id: string): Edit => ({
  name: "Remove take",
  apply: (doc) => ({ ...doc, takes: doc.takes.filter((t) => t.id !== id) }),
});

/** Changes a take's own fields, such as its name or what a search found. */
export const changeTake = (id: string, name: string, change: Partial<Take>): Edit => ({
  name,
  merge: `take:${id}:${name}`,
  apply: (doc) => ({ ...doc, takes: doc.takes.map((t) => (t.id === id ? { ...t, ...change } : t)) }),
});

/** Changes some slices of a take. An edge is kept inside the take and never passes its own other edge; neighbours stay. */
export const changeSlices = (
  takeId: string,
  ids: ReadonlySet<string>,
  name: string,
  change: (slice: Slice) => Slice,
): Edit => ({
  name,
  merge: `slices:${takeId}:${name}:${[...ids].join()}`,
  apply: (doc) => ({
    ...doc,
    takes: doc.takes.map((take) =>
      take.id === takeId
        ? { ...take, slices: take.slices.map((s) => (ids.has(s.id) ? settle(change(s), take.frames) : s)) }
        : take,
    ),
  }),
});

function settle(slice: Slice, frames: number): Slice {
  const start = Math.max(0, Math.min(Math.round(slice.start), frames - 1));
  return { ...slice, start, end: Math.max(start + 1, Math.min(Math.round(slice.end), frames)) };
}

/** Sets the list of sounds that are wanted. */
export const setShots = (name: string, shots: readonly Shot[]): Edit => ({
  name,
  merge: `shots:${name}`,
  apply: (doc) => ({ ...doc, shots }),
});

/** Sets the pattern by which samples are named. */
export const setNaming = (naming: string): Edit => ({
  name: "Change the name pattern",
  merge: "naming",
  apply: (doc) => ({ ...doc, naming }),
});

/** Parts a slice in two at a frame inside it; the second has its attack there and is yet to be measured. */
export const splitSlice = (takeId: string, id: string, at: number): Edit => ({
  name: "Split slice",
  apply: (doc) =>
    mapTake(doc, takeId, (take) => ({
      ...take,
      slices: take.slices.flatMap((s) => {
        if (s.id !== id || at <= s.start || at >= s.end) return [s];
        const taken = new Set(take.slices.map((x) => x.id));
        let second = `s${Math.round(at)}`;
        while (taken.has(second)) second += "b";
        const cut = Math.round(at);
        return [
          { ...s, end: cut, edited: true },
          { ...s, id: second, start: cut, onset: cut, edited: true, repeat: null },
        ];
      }),
    })),
});

/** Makes one slice of several: from the first one's start to the last one's end, with what was said of the first. */
export const mergeIntoOne = (takeId: string, ids: ReadonlySet<string>): Edit => ({
  name: `Join ${plural(ids.size, "slice")}`,
  apply: (doc) =>
    mapTake(doc, takeId, (take) => {
      const members = take.slices.filter((s) => ids.has(s.id));
      const [first] = members;
      if (!first || members.length < 2) return take;
      const end = Math.max(...members.map((s) => s.end));
      const merged = { ...first, end, edited: true, keep: members.some((s) => s.keep) };
      return { ...take, slices: take.slices.flatMap((s) => (s === first ? [merged] : ids.has(s.id) ? [] : [s])) };
    }),
});

/** Takes slices away altogether. */
export const removeSlices = (takeId: string, ids: ReadonlySet<string>): Edit => ({
  name: `Remove ${plural(ids.size, "slice")}`,
  apply: (doc) => mapTake(doc, takeId, (t) => ({ ...t, slices: t.slices.filter((s) => !ids.has(s.id)) })),
});

/** Adds slices where they belong in time. */
export const addSlices = (takeId: string, slices: readonly Slice[]): Edit => ({
  name: `Add ${plural(slices.length, "slice")}`,
  apply: (doc) =>
    mapTake(doc, takeId, (t) => ({ ...t, slices: [...t.slices, ...slices].sort((a, b) => a.start - b.start) })),
});

/** Adds a slice where it belongs in time. */
export const addSlice = (takeId: string, slice: Slice): Edit => ({
  name: "Add slice",
  apply: (doc) =>
    mapTake(doc, takeId, (t) => ({ ...t, slices: [...t.slices, slice].sort((a, b) => a.start - b.start) })),
});

const mapTake = (doc: Instrument, id: string, change: (take: Take) => Take): Instrument => ({
  ...doc,
  takes: doc.takes.map((t) => (t.id === id ? change(t) : t)),
});
