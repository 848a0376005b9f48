import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useRef } from "react";
import { SURE } from "../../../core/analysis";
import { nameOfNote } from "../../../core/audio";
import { noteOfSlice, pitchOfSlice } from "../../../core/formats";
import { changeSlices, type Slice, type Take } from "../../../core/instrument";
import { formatNumber } from "../../../core/params";
import { session } from "../../state/session";
import { useView } from "../../state/view";
import { cx } from "../../widgets/class-names";

interface SliceTableProps {
  readonly take: Take;
  readonly onSelect: (id: string, more: boolean) => void;
  readonly onShow: (slice: Slice) => void;
}

const COLUMNS = "grid grid-cols-[34px_44px_62px_72px_88px_1fr_84px_84px_84px] items-center gap-x-2 px-3";

/** Why a slice is doubtful, in words; empty when it isn't. */
function doubtOf(slice: Slice): string {
  if (slice.note !== null || slice.cents !== null) return "set by hand";
  if (slice.pitch === null) return "no pitch";
  if (slice.confidence < SURE) return "pitch unsure";
  return slice.keep ? "" : "short: a bump or false start?";
}

/** Height of a row in pixels. */
const ROW = 24;

/** The slices as a list: note, pitch, length, level; keep or leave out. Only the rows in sight are drawn. */
export function SliceTable({ take, onSelect, onShow }: SliceTableProps) {
  const sliceIds = useView((v) => v.sliceIds);
  const body = useRef<HTMLDivElement>(null);
  const { slices } = take;
  const rows = useVirtualizer({
    count: slices.length,
    getScrollElement: () => body.current,
    estimateSize: () => ROW,
    overscan: 8,
  });
  const [first] = sliceIds;
  const index = first === undefined ? -1 : slices.findIndex((s) => s.id === first);
  // biome-ignore lint/correctness/useExhaustiveDependencies: only a new choice scrolls
  useEffect(() => {
    if (index >= 0) rows.scrollToIndex(index, { align: "auto" });
  }, [index]);
  const keep = (slice: Slice) =>
    session.commit(
      changeSlices(take.id, new Set([slice.id]), slice.keep ? "Leave out a slice" : "Keep a slice", (s) => ({
        ...s,
        keep: !s.keep,
      })),
    );
  const step = (from: number, by: number) => {
    const next = slices[from + by];
    if (!next) return;
    onSelect(next.id, false);
    rows.scrollToIndex(from + by, { align: "auto" });
    requestAnimationFrame(() => body.current?.querySelector<HTMLElement>(`[data-slice="${next.id}"]`)?.focus());
  };
  if (slices.length === 0) {
    return (
      <p className="shrink-0 border-rule border-t px-4 py-5 text-center text-ink-soft">
        “Find sounds” lists every sound of this take here, with its note and level.
      </p>
    );
  }
  return (
    <div
      role="table"
      aria-label="Slices"
      aria-rowcount={slices.length + 1}
      className="flex h-[38%] shrink-0 flex-col border-rule border-t"
    >
      <div role="row" className={cx(COLUMNS, "h-6 shrink-0 border-rule border-b text-ink-soft text-s")}>
        {["keep", "no.", "note", "cents", "sureness", "remark", "length", "peak", "loudness"].map((title, i) => (
          <span key={title} role="columnheader" className={i === 1 || i > 5 || i === 3 ? "text-right" : undefined}>
            {title}
          </span>
        ))}
      </div>
      <div ref={body} className="min-h-0 flex-1 overflow-y-auto">
        <div className="relative" style={{ height: rows.getTotalSize() }}>
          {rows.getVirtualItems().map(({ index: i, start }) => {
            const slice = slices[i];
            if (!slice) return null;
            return (
              <div key={slice.id} className="absolute inset-x-0" style={{ top: start }}>
                <SliceRow
                  slice={slice}
                  index={i}
                  rate={take.rate}
                  selected={sliceIds.has(slice.id)}
                  onSelect={onSelect}
                  onShow={onShow}
                  onKeep={keep}
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
  readonly slice: Slice;
  readonly index: number;
  readonly rate: number;
  readonly selected: boolean;
  readonly onSelect: (id: string, more: boolean) => void;
  readonly onShow: (slice: Slice) => void;
  readonly onKeep: (slice: Slice) => void;
  /** Selects the slice so many rows further. */
  readonly onStep: (from: number, by: number) => void;
}

function SliceRow({ slice, index, rate, selected, onSelect, onShow, onKeep, onStep }: SliceRowProps) {
  const note = noteOfSlice(slice);
  const pitch = pitchOfSlice(slice);
  const cents = pitch === null || note === null ? null : (pitch - note) * 100;
  return (
    <div
      role="row"
      aria-rowindex={index + 2}
      tabIndex={0}
      data-slice={slice.id}
      aria-selected={selected}
      onClick={(event) => onSelect(slice.id, event.shiftKey || event.ctrlKey || event.metaKey)}
      onDoubleClick={() => onShow(slice)}
      onKeyDown={(event) => {
        if (event.key === "Enter") onSelect(slice.id, event.shiftKey);
        else if (event.key === "Delete") onKeep(slice);
        else if (event.key === "ArrowDown") onStep(index, 1);
        else if (event.key === "ArrowUp") onStep(index, -1);
        else return;
        event.preventDefault();
        event.stopPropagation();
      }}
      className={cx(
        COLUMNS,
        "num h-[24px] text-[12px]",
        selected ? "bg-tint-cobalt" : "hover:bg-well",
        !slice.keep && "text-ink-faint",
      )}
    >
      <input
        type="checkbox"
        aria-label={`Keep slice ${index + 1}`}
        checked={slice.keep}
        onChange={() => onKeep(slice)}
        onClick={(event) => event.stopPropagation()}
        className="size-3.5 accent-[var(--ink)]"
      />
      <span className="text-right">{index + 1}</span>
      <b className="font-semibold">{note === null ? "–" : nameOfNote(note)}</b>
      <span className="text-right">
        {cents === null ? "–" : `${cents >= 0 ? "+" : "−"}${Math.abs(cents).toFixed(1)}`}
      </span>
      <span className={slice.confidence < SURE && slice.note === null ? "text-ochre" : undefined}>
        {Math.round(slice.confidence * 100)} %
      </span>
      <span className={cx("truncate font-sans", slice.note === null && slice.cents === null && "text-ochre")}>
        {doubtOf(slice)}
      </span>
      <span className="text-right">{formatNumber("seconds", (slice.end - slice.start) / rate)}</span>
      <span className="text-right">{formatNumber("decibels", slice.peak)}</span>
      <span className="text-right">{slice.loudness.toFixed(1)} LUFS</span>
    </div>
  );
}
