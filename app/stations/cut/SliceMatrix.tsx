import { useMemo } from "react";
import { nameOfNote } from "../../../core/audio";
import { noteOfSlice } from "../../../core/formats";
import type { Slice, Take } from "../../../core/instrument";
import { isWanted, matrixOf, nameOfStrength, oddOnes } from "../../../core/mapping";
import { plural } from "../../../core/params";
import { useView } from "../../state/view";
import { cx } from "../../widgets/class-names";

interface SliceMatrixProps {
  readonly take: Take;
  readonly onSelect: (id: string, more: "" | "one" | "range") => void;
}

/** Notes × strengths × repeats: what is there, what is missing, and which repeat is odd. */
export function SliceMatrix({ take, onSelect }: SliceMatrixProps) {
  const sliceIds = useView((v) => v.sliceIds);
  const matrix = useMemo(() => matrixOf(take.slices, noteOfSlice), [take.slices]);
  const odd = useMemo(() => oddOnes(take.slices, noteOfSlice), [take.slices]);
  const columns = `72px repeat(${matrix.strengths}, minmax(120px, 1fr))`;
  const move = (from: HTMLElement, by: number) => {
    const all = [...(from.closest("[role=grid]")?.querySelectorAll<HTMLElement>("[data-cell]") ?? [])];
    const next = all[all.indexOf(from) + by];
    if (!next) return;
    next.focus();
    next.click();
  };
  const chip = (slice: Slice, i: number) => {
    const strange = odd.get(slice.id);
    const name = `${nameOfNote(noteOfSlice(slice) ?? 0)} velocity layer ${slice.strength ?? 1} repeat ${slice.repeat ?? i + 1}`;
    return (
      <button
        key={slice.id}
        type="button"
        data-cell={slice.id}
        data-item={slice.id}
        aria-label={`${name}${slice.keep ? "" : ", excluded"}${strange ? `, ${strange}` : ""}`}
        aria-pressed={sliceIds.has(slice.id)}
        title={strange ?? slice.doubt}
        onClick={(event) => onSelect(slice.id, event.ctrlKey || event.metaKey || event.shiftKey ? "one" : "")}
        onKeyDown={(event) => {
          if (event.altKey) return;
          if (event.key === "ArrowRight") move(event.currentTarget, 1);
          else if (event.key === "ArrowLeft") move(event.currentTarget, -1);
          else return;
          event.preventDefault();
          event.stopPropagation();
        }}
        className={cx(
          "num relative h-6 w-9 border text-[12px]",
          !slice.keep
            ? "border-rule-strong border-dashed bg-transparent text-ink-faint line-through"
            : strange
              ? "border-ochre bg-tint-ochre text-ink"
              : "border-leaf bg-tint-leaf text-ink",
          sliceIds.has(slice.id) && "!border-cobalt !bg-tint-cobalt outline outline-1 outline-cobalt",
        )}
      >
        {slice.repeat ?? i + 1}
      </button>
    );
  };
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div
        className="grid h-6 shrink-0 items-center border-rule border-b px-3 text-ink-soft text-s"
        style={{ gridTemplateColumns: columns }}
      >
        <span>note</span>
        {Array.from({ length: matrix.strengths }, (_, s) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a strength is its number
          <span key={s}>{nameOfStrength(s + 1, matrix.strengths) || "one layer"}</span>
        ))}
      </div>
      <div
        role="grid"
        aria-label="Notes by velocity layers and repeats"
        className="min-h-0 flex-1 overflow-y-auto px-3 py-1"
      >
        {matrix.rows.map((row) => (
          <div
            key={row.note ?? "none"}
            role="row"
            className="grid min-h-[30px] [content-visibility:auto] items-center border-rule border-b"
            style={{ gridTemplateColumns: columns }}
          >
            <b className="num font-semibold text-[12px]">{row.note === null ? "no note" : nameOfNote(row.note)}</b>
            {row.cells.map((cell, s) => {
              const short = !isWanted(row) ? 0 : matrix.repeats - cell.filter((x) => x.keep).length;
              return (
                // biome-ignore lint/suspicious/noArrayIndexKey: a strength is its number
                <div key={s} role="gridcell" className="flex flex-wrap items-center gap-1 py-0.5">
                  {cell.map(chip)}
                  {short > 0 && <span className="text-s text-vermilion">{short} missing</span>}
                </div>
              );
            })}
          </div>
        ))}
      </div>
      <p className="shrink-0 border-rule border-t px-3 py-1 text-ink-soft text-s">
        {plural(matrix.rows.filter(isWanted).length, "note")} · {plural(matrix.strengths, "velocity layer")} ·{" "}
        {matrix.repeats} repeats each · {matrix.missing === 0 ? "nothing is missing" : `${matrix.missing} missing`} ·{" "}
        {odd.size === 0 ? "no odd one" : `${odd.size} odd`} · arrows walk and play, Delete excludes
      </p>
    </div>
  );
}
