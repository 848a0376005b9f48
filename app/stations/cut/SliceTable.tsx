import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useMemo, useRef, useState } from "react";
import { noteOfSlice } from "../../../core/formats";
import type { Slice, Take } from "../../../core/instrument";
import { oddOnes } from "../../../core/mapping";
import { useView } from "../../state/view";
import { cx } from "../../widgets/class-names";
import { COLUMNS, SliceRow } from "./SliceRow";
import type { SliceKeys } from "./slice-keys";
import { compareBy, remarkOf, type SortKey } from "./slice-order";

interface SliceTableProps {
  readonly take: Take;
  readonly keys: SliceKeys;
  readonly onSelect: (id: string, more: "" | "one" | "range", order?: readonly string[]) => void;
  readonly onShow: (slice: Slice) => void;
}

const HEADS: readonly { key: SortKey; title: string; right: boolean }[] = [
  { key: "keep", title: "keep", right: false },
  { key: "number", title: "no.", right: true },
  { key: "note", title: "note", right: false },
  { key: "cents", title: "cents", right: true },
  { key: "confidence", title: "sure", right: true },
  { key: "strength", title: "strength", right: true },
  { key: "repeat", title: "repeat", right: true },
  { key: "remark", title: "remark", right: false },
  { key: "length", title: "length", right: true },
  { key: "peak", title: "peak", right: true },
  { key: "loudness", title: "loudness", right: true },
];

/** Height of a row in pixels. */
const ROW = 24;

/** The slices as a list that can be sorted by any column and typed into. Only the rows in sight are drawn. */
export function SliceTable({ take, keys, onSelect, onShow }: SliceTableProps) {
  const sliceIds = useView((v) => v.sliceIds);
  const [sort, setSort] = useState<{ key: SortKey; down: boolean }>({ key: "number", down: false });
  const body = useRef<HTMLDivElement>(null);
  const odd = useMemo(() => oddOnes(take.slices, noteOfSlice), [take.slices]);
  const slices = useMemo(() => {
    const numbered = take.slices.map((slice, i) => ({
      slice,
      number: i + 1,
      remark: remarkOf(slice, odd.get(slice.id)),
    }));
    const sign = sort.down ? -1 : 1;
    return sort.key === "number" && !sort.down
      ? numbered
      : numbered.sort((a, b) => sign * compareBy(sort.key, a, b) || a.number - b.number);
  }, [take.slices, odd, sort]);
  const rows = useVirtualizer({
    count: slices.length,
    getScrollElement: () => body.current,
    estimateSize: () => ROW,
    overscan: 8,
  });
  const [first] = sliceIds;
  const index = first === undefined ? -1 : slices.findIndex((s) => s.slice.id === first);
  // biome-ignore lint/correctness/useExhaustiveDependencies: only a new choice scrolls
  useEffect(() => {
    if (index >= 0) rows.scrollToIndex(index, { align: "auto" });
  }, [index]);
  const order = slices.map((s) => s.slice.id);
  const step = (from: number, by: number) => {
    const next = order[from + by];
    if (!next) return;
    onSelect(next, "");
    rows.scrollToIndex(from + by, { align: "auto" });
    requestAnimationFrame(() => body.current?.querySelector<HTMLElement>(`[data-slice="${next}"]`)?.focus());
  };
  return (
    <div role="table" aria-label="Slices" aria-rowcount={slices.length + 1} className="flex min-h-0 flex-1 flex-col">
      <div role="row" className={cx(COLUMNS, "h-6 shrink-0 border-rule border-b text-ink-soft text-s")}>
        {HEADS.map(({ key, title, right }) => (
          <button
            key={key}
            type="button"
            role="columnheader"
            aria-sort={sort.key === key ? (sort.down ? "descending" : "ascending") : "none"}
            title={`Sort by ${title}`}
            onClick={() => setSort({ key, down: sort.key === key && !sort.down })}
            className={cx(
              "truncate hover:text-ink",
              right ? "text-right" : "text-left",
              sort.key === key && "text-ink underline",
            )}
          >
            {title}
          </button>
        ))}
      </div>
      <div ref={body} className="min-h-0 flex-1 overflow-y-auto">
        <div className="relative" style={{ height: rows.getTotalSize() }}>
          {rows.getVirtualItems().map(({ index: i, start }) => {
            const row = slices[i];
            if (!row) return null;
            return (
              <div key={row.slice.id} className="absolute inset-x-0" style={{ top: start }}>
                <SliceRow
                  {...row}
                  take={take}
                  index={i}
                  selected={sliceIds.has(row.slice.id)}
                  keys={keys}
                  onSelect={(id, more) => onSelect(id, more, order)}
                  onShow={onShow}
                  onStep={step}
                />
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
}
