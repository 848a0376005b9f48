import { type MouseEvent, memo, type ReactNode, type RefObject, useEffect, useRef, useState } from "react";
import { cx } from "./class-names";

/** A column of a table. What isn't given can't be done: a column without `edit` is only read. */
export interface Column<T> {
  readonly id: string;
  readonly title: string;
  /** A track of the grid: `48px`, `minmax(0,1fr)`. */
  readonly width: string;
  readonly right?: boolean;
  /** By what rows are sorted; undefined comes last. */
  readonly sort: (row: T) => number | string | undefined;
  readonly text: (row: T) => string;
  /** How the field is called in which it is typed. */
  readonly field?: (row: T) => string;
  /** Takes what was typed; false when it can't be understood. */
  readonly edit?: (row: T, text: string) => boolean;
  /** Shown in place of the text, such as a box to tick; `act` is what pressing it does. */
  readonly mark?: (row: T) => ReactNode;
  readonly act?: (row: T) => void;
  readonly tone?: (row: T) => string | false;
}

interface TableRowProps {
  readonly id: string;
  readonly index: number;
  readonly top: number;
  readonly row: unknown;
  readonly columns: readonly Column<unknown>[];
  readonly tracks: string;
  readonly selected: boolean;
  readonly faded: boolean;
  /** The column that the keys have reached in this row; −1: none. */
  readonly active: number;
  readonly editing: boolean;
  readonly acts: RefObject<RowActs>;
}

/** What a row can ask of its table. */
export interface RowActs {
  readonly pick: (event: MouseEvent, id: string, column: number) => void;
  readonly write: (id: string, column: number) => void;
  readonly done: (stay: boolean) => void;
  readonly menu: (id: string) => void;
  readonly open: (row: unknown) => void;
}

/** One row; drawn anew only when something in it is another. */
export const TableRow = memo(
  function TableRow(props: TableRowProps) {
    const { id, index, top, row, columns, tracks, selected, faded, active, editing, acts } = props;
    return (
      // biome-ignore lint/a11y/useKeyWithClickEvents: the grid around it listens to the keys
      <div
        role="row"
        aria-rowindex={index + 2}
        aria-selected={selected}
        data-item={id}
        onContextMenu={() => acts.current.menu(id)}
        onClick={(event) => {
          if (event.target === event.currentTarget) acts.current.pick(event, id, columnLeftOf(event));
        }}
        onDoubleClick={() => acts.current.open(row)}
        className={cx(
          "num absolute inset-x-0 grid h-[24px] select-none items-center gap-x-2 px-3 text-[12px]",
          selected ? "bg-tint-cobalt" : "hover:bg-well",
          faded && "text-ink-soft",
        )}
        style={{ top, gridTemplateColumns: tracks }}
      >
        {columns.map((column, at) => (
          // biome-ignore lint/a11y/useKeyWithClickEvents: the grid around it listens to the keys
          <div
            key={column.id}
            role="gridcell"
            aria-colindex={at + 1}
            aria-readonly={!column.edit}
            data-column={at}
            tabIndex={at === active ? 0 : -1}
            title={column.text(row)}
            onClick={(event) => {
              if (column.act) column.act(row);
              else if (column.edit && selected && !event.shiftKey && !event.ctrlKey && !event.metaKey)
                acts.current.write(id, at);
              else acts.current.pick(event, id, at);
            }}
            className={cx(
              "flex h-[22px] min-w-0 items-center rounded-[2px]",
              column.right && "justify-end",
              column.edit && "bg-well px-1",
              column.tone?.(row),
            )}
          >
            {editing && at === active && column.edit ? (
              <CellField
                label={column.field?.(row) ?? column.title}
                text={column.text(row)}
                right={column.right ?? false}
                take={(text) => column.edit?.(row, text) ?? false}
                onDone={(stay) => acts.current.done(stay)}
              />
            ) : (
              (column.mark?.(row) ?? <span className="truncate">{column.text(row)}</span>)
            )}
          </div>
        ))}
      </div>
    );
  },
  (a, b) =>
    a.row === b.row &&
    a.id === b.id &&
    a.index === b.index &&
    a.top === b.top &&
    a.columns === b.columns &&
    a.selected === b.selected &&
    a.faded === b.faded &&
    a.active === b.active &&
    a.editing === b.editing,
);

/** The column before the gap between two cells in which somebody has pressed: the gap is a part of the row, too. */
function columnLeftOf(event: MouseEvent): number {
  const cells = [...event.currentTarget.children];
  return Math.max(
    0,
    cells.findLastIndex((cell) => cell.getBoundingClientRect().left <= event.clientX),
  );
}

/** The field in a cell: Enter and Tab take what was written, Escape gives up; what can't be understood stays, marked. */
function CellField({
  label,
  text,
  right,
  take,
  onDone,
}: {
  label: string;
  text: string;
  right: boolean;
  take: (text: string) => boolean;
  onDone: (stay: boolean) => void;
}) {
  const [draft, setDraft] = useState(text);
  const [wrong, setWrong] = useState(false);
  const over = useRef(false);
  const latest = useRef(onDone);
  latest.current = onDone;
  // A row that is scrolled out of sight is no longer written in.
  useEffect(
    () => () => {
      if (!over.current) latest.current(false);
    },
    [],
  );
  const finish = () => {
    if (over.current) return;
    if (draft !== text && !take(draft)) {
      setWrong(true);
      return;
    }
    over.current = true;
    onDone(true);
  };
  return (
    <input
      // biome-ignore lint/a11y/noAutofocus: it appears because somebody asked to write here
      autoFocus
      aria-label={label}
      aria-invalid={wrong}
      title={wrong ? "This can't be understood here" : undefined}
      value={draft}
      spellCheck={false}
      onFocus={(event) => event.target.select()}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={() => {
        if (draft !== text && !over.current) take(draft);
        if (!over.current) onDone(false);
        over.current = true;
      }}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === "Enter") finish();
        else if (event.key === "Escape") {
          over.current = true;
          onDone(true);
        } else return;
        event.preventDefault();
      }}
      onClick={(event) => event.stopPropagation()}
      onDoubleClick={(event) => event.stopPropagation()}
      className={cx(
        "w-full min-w-0 bg-transparent shadow-none! outline-none",
        right && "text-right",
        wrong && "text-vermilion underline",
      )}
    />
  );
}
