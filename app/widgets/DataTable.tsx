import {
  createColumnHelper,
  createSortedRowModel,
  rowSortingFeature,
  tableFeatures,
  useTable,
} from "@tanstack/react-table";
import { useVirtualizer } from "@tanstack/react-virtual";
import { type KeyboardEvent, type MouseEvent, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import type { Command } from "../state/commands";
import { WithMenu } from "./CommandMenu";
import { cx } from "./class-names";
import type { Choosing } from "./selection";
import { type Column, type RowActs, TableRow } from "./TableRow";

interface DataTableProps<T> {
  readonly label: string;
  readonly rows: readonly T[];
  readonly columns: readonly Column<T>[];
  readonly idOf: (row: T) => string;
  readonly selected: ReadonlySet<string>;
  /** A row was chosen; the ids of all rows in the order that is shown. */
  readonly onSelect: (id: string, how: Choosing, order: readonly string[]) => void;
  readonly onOpen?: (row: T) => void;
  /** What can be done with the selected rows. */
  readonly commands: readonly Command[];
  readonly sortedBy: string;
  readonly faded?: (row: T) => boolean;
}

const features = tableFeatures({ rowSortingFeature, sortedRowModel: createSortedRowModel() });

/** Height of a row in pixels. */
const ROW = 24;
/** Rows that Page Up and Page Down go. */
const PAGE = 12;

const ascending = (a: unknown, b: unknown): number =>
  (a as number) < (b as number) ? -1 : (a as number) > (b as number) ? 1 : 0;

/**
 * Thousands of rows as one grid for the keyboard: arrows go from cell to cell, Shift takes rows along, Enter or F2 writes in a cell, Tab leaves the
 * table. Only the rows in sight are made.
 */
export function DataTable<T>(props: DataTableProps<T>) {
  const { label, rows, columns, idOf, selected, onSelect, onOpen, commands, sortedBy, faded } = props;
  const [sorting, setSorting] = useState([{ id: sortedBy, desc: false }]);
  const defined = useMemo(() => {
    const helper = createColumnHelper<typeof features, object>();
    return helper.columns(
      columns.map((column) =>
        helper.accessor((row) => column.sort(row as T), {
          id: column.id,
          sortUndefined: "last",
          sortFn: (a, b, id) => ascending(a.getValue(id), b.getValue(id)),
        }),
      ),
    );
  }, [columns]);
  const table = useTable({
    features,
    columns: defined,
    data: rows as readonly object[] as object[],
    state: { sorting },
    onSortingChange: setSorting as never,
    enableSortingRemoval: false,
    enableMultiSort: false,
  });
  const sorted = table.getRowModel().rows;
  const shown = useMemo(() => sorted.map((row) => row.original as T), [sorted]);
  const order = useMemo(() => shown.map(idOf), [shown, idOf]);
  const tracks = columns.map((c) => c.width).join(" ");
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: shown.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 8,
  });
  const [active, setActive] = useState({ id: "", column: 1 });
  const [editing, setEditing] = useState(false);
  const column = Math.min(active.column, columns.length - 1);
  const place = order.indexOf(active.id);
  const [first] = selected;
  const chosen = first === undefined ? -1 : order.indexOf(first);
  const wanted = useRef(false);

  // What was chosen elsewhere comes into view.
  // biome-ignore lint/correctness/useExhaustiveDependencies: only a new choice scrolls
  useEffect(() => {
    if (chosen >= 0) virtual.scrollToIndex(chosen, { align: "auto" });
  }, [chosen]);
  // The cell to which the keys went has the focus as soon as it is there.
  useLayoutEffect(() => {
    if (!wanted.current || editing) return;
    const cell = scroller.current?.querySelector<HTMLElement>(
      `[data-item="${CSS.escape(active.id)}"] [data-column="${column}"]`,
    );
    if (!cell) return;
    cell.focus({ preventScroll: true });
    wanted.current = false;
  });

  const go = (to: number, across: number, how: Choosing | null) => {
    const row = Math.min(order.length - 1, Math.max(0, to));
    const id = order[row];
    if (id === undefined) return;
    wanted.current = true;
    setActive({ id, column: Math.min(columns.length - 1, Math.max(0, across)) });
    if (row !== place) virtual.scrollToIndex(row, { align: "auto" });
    if (how !== null && row !== place) onSelect(id, how, order);
  };
  /** Begins or ends writing in the active cell; whoever ended it by a key stays there, whoever went elsewhere is let go. */
  const write = (on: boolean, stay = false) => {
    setEditing(on);
    if (stay) wanted.current = true;
  };
  const keys = (event: KeyboardEvent) => {
    if (editing || event.altKey) return;
    const from = place < 0 ? Math.max(0, chosen) : place;
    if (headKeys(event, () => go(from, column, null))) return;
    const mod = event.ctrlKey || event.metaKey;
    const how: Choosing | null = mod ? null : event.shiftKey ? "range" : "";
    const cell = columns[column];
    const row = shown[from];
    switch (event.key) {
      case "ArrowDown":
        go(from + 1, column, how);
        break;
      case "ArrowUp":
        if (from === 0 && how === "")
          scroller.current?.closest("[role=grid]")?.querySelector<HTMLElement>("[tabindex='0']")?.focus();
        else go(from - 1, column, how);
        break;
      case "ArrowRight":
        go(from, column + 1, null);
        break;
      case "ArrowLeft":
        go(from, column - 1, null);
        break;
      case "PageDown":
        go(from + PAGE, column, how);
        break;
      case "PageUp":
        go(from - PAGE, column, how);
        break;
      case "Home":
        go(mod ? 0 : from, mod ? column : 0, mod ? "" : null);
        break;
      case "End":
        go(mod ? order.length - 1 : from, mod ? column : columns.length - 1, mod ? "" : null);
        break;
      case " ":
        if (row === undefined) return;
        if (cell?.act) cell.act(row);
        else onSelect(order[from] ?? "", "one", order);
        break;
      case "Enter":
      case "F2":
        if (!cell?.edit || row === undefined) return;
        setEditing(true);
        break;
      default:
        return;
    }
    event.preventDefault();
    event.stopPropagation();
  };
  const pick = (event: MouseEvent, id: string, at: number) => {
    setActive({ id, column: at });
    onSelect(id, event.shiftKey ? "range" : event.ctrlKey || event.metaKey ? "one" : "", order);
  };
  // Rows are drawn anew only when they change, so what they call must be the newest all the same.
  const acts = useRef<RowActs>({} as RowActs);
  acts.current = {
    pick,
    write: (id, at) => {
      setActive({ id, column: at });
      write(true);
    },
    done: (stay) => write(false, stay),
    menu: (id) => {
      if (!selected.has(id)) onSelect(id, "menu", order);
    },
    open: (row) => onOpen?.(row as T),
  };
  return (
    <div
      role="grid"
      aria-label={label}
      aria-rowcount={rows.length + 1}
      aria-colcount={columns.length}
      aria-multiselectable
      className="flex min-h-0 flex-1 flex-col"
      onKeyDown={keys}
    >
      <div
        role="row"
        className="grid h-6 shrink-0 items-center gap-x-2 border-rule border-b px-3 text-ink-soft text-s"
        style={{ gridTemplateColumns: tracks }}
      >
        {columns.map((c) => {
          const by = sorting[0]?.id === c.id ? sorting[0] : null;
          return (
            <span
              key={c.id}
              role="columnheader"
              aria-sort={by ? (by.desc ? "descending" : "ascending") : "none"}
              className="flex min-w-0"
            >
              <button
                type="button"
                tabIndex={by ? 0 : -1}
                title={`Sort by ${c.title}`}
                onClick={() => setSorting([{ id: c.id, desc: by !== null && !by.desc }])}
                className={cx(
                  "w-full truncate hover:text-ink",
                  c.right ? "text-right" : "text-left",
                  by && "text-ink underline",
                )}
              >
                {c.title}
                {by && <span aria-hidden>{by.desc ? " ↓" : " ↑"}</span>}
              </button>
            </span>
          );
        })}
      </div>
      <WithMenu commands={commands}>
        <div ref={scroller} className="min-h-0 flex-1 overflow-y-auto">
          <div className="relative" style={{ height: virtual.getTotalSize() }}>
            {virtual.getVirtualItems().map(({ index, start }) => {
              const row = shown[index];
              const id = order[index];
              if (row === undefined || id === undefined) return null;
              const here = id === active.id;
              return (
                <TableRow
                  key={id}
                  id={id}
                  index={index}
                  top={start}
                  row={row as unknown}
                  columns={columns as readonly Column<unknown>[]}
                  tracks={tracks}
                  selected={selected.has(id)}
                  faded={faded?.(row) ?? false}
                  active={here ? column : place < 0 && index === Math.max(0, chosen) ? column : -1}
                  editing={here && editing}
                  acts={acts}
                />
              );
            })}
          </div>
        </div>
      </WithMenu>
    </div>
  );
}

/** The keys of the table's head: arrows go from column to column and down to the rows, Enter and Space sort by one. True where they are meant. */
function headKeys(event: KeyboardEvent, down: () => void): boolean {
  const head = (event.target as HTMLElement).closest("[role=columnheader]");
  if (!head) return false;
  if (event.key === "ArrowDown") {
    down();
    event.preventDefault();
  }
  const next = { ArrowLeft: head.previousElementSibling, ArrowRight: head.nextElementSibling }[event.key];
  if (next) {
    next.querySelector("button")?.focus();
    event.preventDefault();
  }
  event.stopPropagation();
  return true;
}
