import { addSlices, mergeIntoOne, removeSlices, splitSlice, type Take } from "../../../core/instrument";
import { plural } from "../../../core/params";
import { audition } from "../../state/audio-queries";
import { copied, copy } from "../../state/clipboard";
import type { Command } from "../../state/commands";
import { freshId } from "../../state/ids";
import { tell } from "../../state/notices";
import { session } from "../../state/session";
import { setView, useView } from "../../state/view";
import { nudge, setKeep } from "./slice-edits";

/** Seconds by which the keys move an edge. */
const NUDGE = 0.001;

/** The slice that has the focus, and with it all that are selected if it is one of them; without one those that are selected. */
function target(take: Take): { first: Take["slices"][number]; ids: ReadonlySet<string> } | null {
  const { sliceIds } = useView.getState();
  const focused = document.activeElement?.closest<HTMLElement>("[data-item]")?.dataset.item;
  const ids = focused === undefined || sliceIds.has(focused) ? sliceIds : new Set([focused]);
  const first = take.slices.find((s) => s.id === focused) ?? take.slices.find((s) => ids.has(s.id));
  return first ? { first, ids } : null;
}

const CHOOSE = "select a slice first";

/** Puts copied slices into a take, as they lay to one another; what lies beyond its end stays out. */
function paste(take: Take, cursor: number | null): void {
  const slices = copied("slices")?.slices ?? [];
  const by = cursor === null ? 0 : Math.round(cursor) - Math.min(...slices.map((s) => s.start));
  const taken = new Set(take.slices.map((s) => s.id));
  const fresh = slices
    .map((s) => ({ ...s, start: s.start + by, end: Math.min(take.frames, s.end + by), edited: true }))
    .filter((s) => s.start >= 0 && s.end - s.start >= 64)
    .map((s) => {
      const id = freshId(taken);
      taken.add(id);
      return { ...s, id };
    });
  if (fresh.length < slices.length) {
    const out = slices.length - fresh.length;
    const where = cursor === null ? "" : " from where the wave was clicked";
    tell(
      "warning",
      fresh.length === 0
        ? `Nothing was pasted: no copied slice lies within ${take.name}${where}.`
        : `${plural(out, "copied slice lies", "copied slices lie")} beyond the end of ${take.name}${where} and stayed out.`,
    );
  }
  if (fresh.length === 0) return;
  session.commit(addSlices(take.id, fresh));
  setView({ sliceIds: new Set(fresh.map((s) => s.id)) });
}

/** What can be done with the slices of a take that are selected. */
export function sliceCommands(take: Take, cursor: number | null, loop: () => void): readonly Command[] {
  const some = () => (target(take) ? null : CHOOSE);
  const edge = (id: string, label: string, chord: string, which: "start" | "end", by: number): Command => ({
    id,
    label,
    chords: [chord],
    repeats: true,
    why: some,
    run: () => {
      const found = target(take);
      if (found) nudge(take, found.ids, which, by);
    },
  });
  const cutAt = () => {
    const found = target(take);
    if (!found) return CHOOSE;
    return cursor !== null && cursor > found.first.start && cursor < found.first.end
      ? null
      : "click the wave inside the slice first";
  };
  return [
    {
      id: "hear",
      label: "Hear the slice",
      chords: ["Enter"],
      why: some,
      run: () => {
        const found = target(take);
        if (found) void audition(take.sha, found.first.start, found.first.end);
      },
    },
    { id: "loop", label: "Hear the slice again and again", chords: ["Alt+Enter"], why: some, run: loop },
    {
      id: "keep",
      label: "Exclude or include the slices",
      chords: ["Delete", "Backspace"],
      why: some,
      run: () => {
        const found = target(take);
        if (found) setKeep(take, found.ids, !found.first.keep);
      },
    },
    edge("start-back", "Move the start back by 1 ms", "Alt+ArrowLeft", "start", -NUDGE),
    edge("start-on", "Move the start on by 1 ms", "Alt+ArrowRight", "start", NUDGE),
    edge("end-back", "Move the end back by 1 ms", "Alt+Shift+ArrowLeft", "end", -NUDGE),
    edge("end-on", "Move the end on by 1 ms", "Alt+Shift+ArrowRight", "end", NUDGE),
    {
      id: "split",
      label: "Split the slice where the wave was clicked",
      chords: ["Alt+S"],
      why: cutAt,
      run: () => {
        const found = target(take);
        if (found && cursor !== null) session.commit(splitSlice(take.id, found.first.id, cursor));
      },
    },
    {
      id: "join",
      label: "Join the slices into one",
      chords: ["Alt+J"],
      why: () => ((target(take)?.ids.size ?? 0) > 1 ? null : "select several slices first"),
      run: () => {
        const found = target(take);
        if (found) session.commit(mergeIntoOne(take.id, found.ids));
      },
    },
    {
      id: "copy",
      label: "Copy the slices",
      chords: ["Mod+C"],
      why: some,
      run: () => {
        const ids = target(take)?.ids;
        if (ids) copy({ kind: "slices", slices: take.slices.filter((s) => ids.has(s.id)) });
      },
    },
    {
      id: "paste",
      label: "Paste slices where the wave was clicked, else where they were",
      chords: ["Mod+V"],
      why: () => (copied("slices") ? null : "no slices were copied"),
      run: () => paste(take, cursor),
    },
    {
      id: "remove",
      label: "Remove the slices from the list",
      why: some,
      run: () => {
        const ids = target(take)?.ids;
        if (ids) session.commit(removeSlices(take.id, ids));
      },
    },
    {
      id: "all",
      label: "Select all slices",
      chords: ["Mod+A"],
      why: () => (take.slices.length > 0 ? null : "there are no slices yet"),
      run: () => setView({ sliceIds: new Set(take.slices.map((s) => s.id)) }),
    },
  ];
}
