import { startTransition, useState } from "react";
import type { Slice, Take } from "../../../core/instrument";
import { cx } from "../../widgets/class-names";
import { NamePanel } from "./NamePanel";
import { SliceMatrix } from "./SliceMatrix";
import { SliceTable } from "./SliceTable";
import type { SliceKeys } from "./slice-keys";

const PANELS = [
  { id: "list", label: "List" },
  { id: "matrix", label: "Matrix" },
  { id: "names", label: "Names" },
] as const;
type Panel = (typeof PANELS)[number]["id"];

interface SlicePanelsProps {
  readonly take: Take;
  readonly keys: SliceKeys;
  readonly onSelect: (id: string, more: "" | "one" | "range", order?: readonly string[]) => void;
  readonly onShow: (slice: Slice) => void;
}

/** The slices of a take below its wave: as a list, as a matrix of notes and strengths, and by their names. */
export function SlicePanels({ take, keys, onSelect, onShow }: SlicePanelsProps) {
  const [panel, setPanel] = useState<Panel>("list");
  return (
    <>
      <div role="tablist" aria-label="Show the slices as" className="flex h-7 shrink-0 border-rule border-b px-3">
        {PANELS.map((p) => (
          <button
            key={p.id}
            type="button"
            role="tab"
            aria-selected={panel === p.id}
            onClick={() => startTransition(() => setPanel(p.id))}
            className={cx(
              "border-b-2 px-3",
              panel === p.id ? "border-cobalt font-semibold" : "border-transparent text-ink-soft hover:text-ink",
            )}
          >
            {p.label}
          </button>
        ))}
      </div>
      {panel === "list" && <SliceTable take={take} keys={keys} onSelect={onSelect} onShow={onShow} />}
      {panel === "matrix" && <SliceMatrix take={take} keys={keys} onSelect={onSelect} />}
      {panel === "names" && <NamePanel take={take} />}
    </>
  );
}
