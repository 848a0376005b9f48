import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useMemo, useRef, useState } from "react";
import { nameOfNote, parseNote } from "../../../core/audio";
import { centsOfSlice, noteOfSlice } from "../../../core/formats";
import { changeSlices, type Slice, type Take } from "../../../core/instrument";
import { oddOnes } from "../../../core/mapping";
import { formatNumber } from "../../../core/params";
import { session } from "../../state/session";
import { useView } from "../../state/view";
import { cx } from "../../widgets/class-names";
import { Well } from "../../widgets/Well";
import type { SliceKeys } from "./slice-keys";
import { compareBy, remarkOf, type SortKey, SURE_AT } from "./slice-order";

interface SliceTableProps {
  readonly take: Take;
  readonly keys: SliceKeys;
  readonly onSelect: (id: string, more: "" | "one" | "range", order?: readonly string[]) => void;
  readonly onShow: (slice: Slice) => void;
}

const COLUMNS =
  "grid grid-cols-[32px_34px_58px_56px_46px_48px_48px_minmax(0,1fr)_68px_66px_82px] items-center gap-x-2 px-3";

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

interface SliceRowProps {
  readonly take: Take;
  readonly slice: Slice;
  readonly number: number;
  readonly remark: string;
  readonly index: number;
  readonly selected: boolean;
  readonly keys: SliceKeys;
  readonly onSelect: (id: string, more: "" | "one" | "range") => void;
  readonly onShow: (slice: Slice) => void;
  /** Selects the slice so many rows further. */
  readonly onStep: (from: number, by: number) => void;
}

function SliceRow({ take, slice, number, remark, index, selected, keys, onSelect, onShow, onStep }: SliceRowProps) {
  const sliceIds = useView((v) => v.sliceIds);
  const note = noteOfSlice(slice);
  const cents = centsOfSlice(slice);
  const doubtful = slice.confidence < SURE_AT && slice.note === null;
  /** What is typed in a row goes to all selected slices when it is one of them. */
  const change = (name: string, fn: (s: Slice) => Slice) =>
    session.commit(changeSlices(take.id, selected ? sliceIds : new Set([slice.id]), name, fn));
  const count = (key: "strength" | "repeat") => (
    <span className="flex justify-end" role="cell">
      <Well
        label={`${key} of slice ${number}`}
        text={slice[key] === null ? "–" : String(slice[key])}
        width={40}
        align="right"
        onType={(text) => {
          const n = text.trim() === "" || text === "–" ? null : Number(text);
          if (n !== null && !(Number.isInteger(n) && n >= 1 && n <= 127)) return false;
          change(`Set ${key}`, (s) => ({ ...s, [key]: n }));
          return true;
        }}
      />
    </span>
  );
  return (
    <div
      role="row"
      aria-rowindex={index + 2}
      tabIndex={0}
      data-slice={slice.id}
      aria-selected={selected}
      onClick={(event) => {
        if (event.target instanceof HTMLInputElement) return;
        onSelect(slice.id, event.shiftKey ? "range" : event.ctrlKey || event.metaKey ? "one" : "");
      }}
      onDoubleClick={() => onShow(slice)}
      onKeyDown={(event) => {
        if (event.target instanceof HTMLInputElement) return;
        if (event.key === "ArrowDown") onStep(index, 1);
        else if (event.key === "ArrowUp") onStep(index, -1);
        else if (!keys(event, slice)) return;
        event.preventDefault();
        event.stopPropagation();
      }}
      className={cx(
        COLUMNS,
        "num h-[24px] select-none text-[12px]",
        selected ? "bg-tint-cobalt" : "hover:bg-well",
        !slice.keep && "text-ink-faint",
      )}
    >
      <input
        type="checkbox"
        aria-label={`Keep slice ${number}`}
        checked={slice.keep}
        onChange={() => change(slice.keep ? "Leave out" : "Keep", (s) => ({ ...s, keep: !slice.keep }))}
        className="size-3.5 accent-[var(--ink)]"
      />
      <span className="text-right">{number}</span>
      <Well
        label={`Note of slice ${number}`}
        text={note === null ? "–" : nameOfNote(note)}
        width={54}
        onType={(text) => {
          const parsed = text.trim() === "" || text === "–" ? null : parseNote(text);
          if (parsed === null && text.trim() !== "" && text !== "–") return false;
          change("Set note", (s) => ({ ...s, note: parsed }));
          return true;
        }}
      />
      <span className={cx("text-right", cents !== null && Math.abs(cents) > 35 && "text-ochre")}>
        {cents === null ? "–" : `${cents >= 0 ? "+" : "−"}${Math.abs(cents).toFixed(1)}`}
      </span>
      <span className={cx("text-right", doubtful && "text-ochre")}>{Math.round(slice.confidence * 100)} %</span>
      {count("strength")}
      {count("repeat")}
      <span className={cx("truncate font-sans", remark !== "set by hand" && "text-ochre")} title={remark}>
        {remark}
      </span>
      <span className="text-right">{formatNumber("seconds", (slice.end - slice.start) / take.rate)}</span>
      <span className={cx("text-right", slice.peak > -0.1 && "text-vermilion")}>
        {formatNumber("decibels", slice.peak)}
      </span>
      <span className="text-right">{slice.loudness.toFixed(1)} LUFS</span>
    </div>
  );
}
