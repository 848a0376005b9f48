import { nameOfNote, parseNote } from "../../../core/audio";
import { centsOfSlice, noteOfSlice } from "../../../core/formats";
import { changeSlices, type Slice, type Take } from "../../../core/instrument";
import { formatNumber } from "../../../core/params";
import { session } from "../../state/session";
import { useView } from "../../state/view";
import type { Column } from "../../widgets/TableRow";
import { type NumberedSlice, SURE_AT } from "./slice-order";

/** What is typed in a row goes to all selected slices when it is one of them. */
function change(take: string, slice: Slice, name: string, fn: (s: Slice) => Slice): void {
  const { sliceIds } = useView.getState();
  session.commit(changeSlices(take, sliceIds.has(slice.id) ? sliceIds : new Set([slice.id]), name, fn));
}

const isNothing = (text: string): boolean => /^[–-]?$/.test(text.trim());

const count = (take: string, key: "strength" | "repeat", name: string, title: string): Column<NumberedSlice> => ({
  id: key,
  title,
  width: "60px",
  right: true,
  sort: ({ slice }) => slice[key] ?? undefined,
  text: ({ slice }) => (slice[key] === null ? "–" : String(slice[key])),
  field: ({ number }) => `${name} of slice ${number}`,
  edit: ({ slice }, text) => {
    const n = isNothing(text) ? null : Number(text);
    if (n !== null && !(Number.isInteger(n) && n >= 1 && n <= 127)) return false;
    change(take, slice, `Set ${name}`, (s) => ({ ...s, [key]: n }));
    return true;
  },
});

/** The columns of a take's slices. */
export const columnsOf = (take: Pick<Take, "id" | "rate">): readonly Column<NumberedSlice>[] => [
  {
    id: "keep",
    title: "include",
    width: "48px",
    sort: ({ slice }) => (slice.keep ? 0 : 1),
    text: ({ slice }) => (slice.keep ? "kept" : "excluded"),
    mark: ({ slice, number }) => (
      <span
        role="checkbox"
        aria-checked={slice.keep}
        aria-label={`Keep slice ${number}`}
        className="grid size-3.5 place-items-center border border-ink bg-sheet text-[11px] leading-none"
      >
        {slice.keep ? "✓" : ""}
      </span>
    ),
    act: ({ slice }) =>
      change(take.id, slice, slice.keep ? "Exclude" : "Include", (s) => ({ ...s, keep: !slice.keep })),
  },
  { id: "number", title: "no.", width: "34px", right: true, sort: (r) => r.number, text: (r) => String(r.number) },
  {
    id: "note",
    title: "note",
    width: "58px",
    sort: ({ slice }) => noteOfSlice(slice) ?? undefined,
    text: ({ slice }) => {
      const note = noteOfSlice(slice);
      return note === null ? "–" : nameOfNote(note);
    },
    field: ({ number }) => `Note of slice ${number}`,
    edit: ({ slice }, text) => {
      const note = isNothing(text) ? null : parseNote(text);
      if (note === null && !isNothing(text)) return false;
      change(take.id, slice, "Set note", (s) => ({ ...s, note }));
      return true;
    },
  },
  {
    id: "cents",
    title: "cents",
    width: "56px",
    right: true,
    sort: ({ slice }) => centsOfSlice(slice) ?? undefined,
    text: ({ slice }) => {
      const cents = centsOfSlice(slice);
      return cents === null ? "–" : `${cents >= 0 ? "+" : "−"}${Math.abs(cents).toFixed(1)}`;
    },
    tone: ({ slice }) => Math.abs(centsOfSlice(slice) ?? 0) > 35 && "text-ochre",
  },
  {
    id: "confidence",
    title: "confidence",
    width: "66px",
    right: true,
    sort: ({ slice }) => slice.confidence,
    text: ({ slice }) => `${Math.round(slice.confidence * 100)} %`,
    tone: ({ slice }) => slice.confidence < SURE_AT && slice.note === null && "text-ochre",
  },
  count(take.id, "strength", "velocity layer", "vel. layer"),
  count(take.id, "repeat", "repeat", "repeat"),
  {
    id: "remark",
    title: "remark",
    width: "minmax(0,1fr)",
    sort: ({ remark }) => remark || undefined,
    text: ({ remark }) => remark,
    tone: ({ remark }) => `font-sans ${remark === "set by hand" ? "" : "text-ochre"}`,
  },
  {
    id: "length",
    title: "length",
    width: "68px",
    right: true,
    sort: ({ slice }) => slice.end - slice.start,
    text: ({ slice }) => formatNumber("seconds", (slice.end - slice.start) / take.rate),
  },
  {
    id: "peak",
    title: "peak",
    width: "66px",
    right: true,
    sort: ({ slice }) => slice.peak,
    text: ({ slice }) => formatNumber("decibels", slice.peak),
    tone: ({ slice }) => slice.peak > -0.1 && "text-vermilion",
  },
  {
    id: "loudness",
    title: "loudness",
    width: "82px",
    right: true,
    sort: ({ slice }) => slice.loudness,
    text: ({ slice }) => `${slice.loudness.toFixed(1)} LUFS`,
  },
];
