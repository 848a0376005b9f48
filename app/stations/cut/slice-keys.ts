import type { KeyboardEvent } from "react";
import { mergeIntoOne, type Slice, splitSlice, type Take } from "../../../core/instrument";
import { audition } from "../../state/audio-queries";
import { session } from "../../state/session";
import { nudge, setKeep } from "./slice-edits";

/** What a key does to a slice, or to all that are selected when it is one of them; true when it did something. */
export type SliceKeys = (event: KeyboardEvent, slice: Slice) => boolean;

/** The keys of the list and the matrix: Enter hears, Delete keeps or leaves out, `,` `.` move the start and `<` `>` the end by a millisecond, `/` splits, `+` merges, L loops. */
export const sliceKeys =
  (take: Take, selected: ReadonlySet<string>, cursor: number | null, onLoop: () => void): SliceKeys =>
  (event, slice) => {
    const ids = selected.has(slice.id) ? selected : new Set([slice.id]);
    switch (event.key) {
      case "Enter":
        void audition(take.sha, slice.start, slice.end);
        return true;
      case "Delete":
        setKeep(take, ids, !slice.keep);
        return true;
      case ",":
      case ".":
        nudge(take, ids, "start", event.key === "," ? -0.001 : 0.001);
        return true;
      case "<":
      case ">":
        nudge(take, ids, "end", event.key === "<" ? -0.001 : 0.001);
        return true;
      case "/":
        if (cursor !== null) session.commit(splitSlice(take.id, slice.id, cursor));
        return true;
      case "+":
        if (ids.size > 1) session.commit(mergeIntoOne(take.id, ids));
        return true;
      case "l":
      case "L":
        onLoop();
        return true;
      default:
        return false;
    }
  };
