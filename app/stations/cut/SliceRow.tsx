import { nameOfNote, parseNote } from "../../../core/audio";
import { centsOfSlice, noteOfSlice } from "../../../core/formats";
import { changeSlices, type Slice, type Take } from "../../../core/instrument";
import { formatNumber } from "../../../core/params";
import { session } from "../../state/session";
import { useView } from "../../state/view";
import { cx } from "../../widgets/class-names";
import { Well } from "../../widgets/Well";
import type { SliceKeys } from "./slice-keys";
import { SURE_AT } from "./slice-order";

/** The columns of the list, for its head and its rows. */
export const COLUMNS =
  "grid grid-cols-[32px_34px_58px_56px_46px_48px_48px_minmax(0,1fr)_68px_66px_82px] items-center gap-x-2 px-3";

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

/** A slice as a row: what is measured, and wells for what can be typed. */
export function SliceRow({
  take,
  slice,
  number,
  remark,
  index,
  selected,
  keys,
  onSelect,
  onShow,
  onStep,
}: SliceRowProps) {
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
