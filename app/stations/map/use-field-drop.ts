import { type DragEvent, useState } from "react";
import { filesOfDrop } from "../../state/dropped-files";
import { openDropped } from "../../state/importing";
import { type KeyAxis, keyAt } from "../../state/key-axis";
import { type DropPlace, layFrom } from "../../state/laying";
import { session } from "../../state/session";
import { hitField, type Stack } from "./field-geometry";
import { DRAGGED_SAMPLES } from "./pool/Pool";

interface FieldDrop {
  /** The key over which something is held; null for none. */
  readonly dropKey: number | null;
  readonly handlers: {
    readonly onDragOver: (event: DragEvent) => void;
    readonly onDragLeave: () => void;
    readonly onDrop: (event: DragEvent) => void;
  };
}

const takes = (event: DragEvent): boolean =>
  event.dataTransfer.types.includes(DRAGGED_SAMPLES) || event.dataTransfer.types.includes("Files");

/** Samples from the pool, or files, are laid on the keys from where they are dropped; with Shift on white keys only. `stacks`: what lies there. */
export function useFieldDrop(axis: KeyAxis, stacks: () => readonly Stack[]): FieldDrop {
  const [dropKey, setDropKey] = useState<number | null>(null);
  const keyOf = (event: DragEvent): number =>
    keyAt(axis, event.clientX - event.currentTarget.getBoundingClientRect().left);
  return {
    dropKey,
    handlers: {
      onDragOver: (event) => {
        if (!takes(event)) return;
        event.preventDefault();
        event.dataTransfer.dropEffect = "copy";
        setDropKey(keyOf(event));
      },
      onDragLeave: () => setDropKey(null),
      onDrop: (event) => {
        setDropKey(null);
        if (!takes(event)) return;
        event.preventDefault();
        const bounds = event.currentTarget.getBoundingClientRect();
        const hit = hitField(stacks(), event.clientX - bounds.left, event.clientY - bounds.top);
        const at: DropPlace = {
          key: keyOf(event),
          step: event.shiftKey ? "white" : "all",
          target: new Set(hit?.stack.zones.map((z) => z.id)),
        };
        const shas = event.dataTransfer.getData(DRAGGED_SAMPLES).split(" ");
        const samples = session.instrument?.samples.filter((s) => shas.includes(s.sha)) ?? [];
        if (samples.length > 0) layFrom(samples, at);
        else void filesOfDrop(event.dataTransfer).then((files) => openDropped(files, () => {}, at));
      },
    },
  };
}
