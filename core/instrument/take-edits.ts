import type { Edit } from "./edit";
import type { Slice, Take } from "./instrument";

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
