import { ChevronLeft, ChevronRight, Lock, LockOpen, Plus, X } from "lucide-react";
import { useMemo, useState } from "react";
import { addressInTable, removeRows, rowsOf, setTable, type Unit } from "../../core/instrument";
import { formatValue, type NumberParam, travelOf, valueAt } from "../../core/params";
import { isLocked, type TableRow, type TableSpec, unitSpec } from "../../core/units";
import { chooseRow, useRowOf } from "../state/chosen-row";
import { session } from "../state/session";
import { typedValue } from "../state/typed-value";
import { useInstrument } from "../state/use-session";
import { Button } from "../widgets/Button";
import { WordMenu } from "../widgets/CommandMenu";
import { cx } from "../widgets/class-names";
import { ParamControl } from "../widgets/ParamControl";
import { Well } from "../widgets/Well";
import { rowRouteCommands, tableCommands, toggleLock } from "./row-commands";
import { heardColumns, nextRow } from "./unit-rows";

/** Rows of the list that are shown at once. */
const PAGE = 16;

/** The rows of a unit's table, such as partials or modes: the one that is looked at with its controls, all of them as a list, what can be done with them. */
export function RowTable({ address, unit }: { address: string; unit: Unit }) {
  const spec = unitSpec(unit.kind).table;
  const rows = rowsOf(unit);
  const chosen = useRowOf(address, rows.length);
  const [listed, setListed] = useState(false);
  const commands = useMemo(() => tableCommands(address), [address]);
  if (!spec) return null;
  const change = (next: readonly TableRow[], what: string) => session.commit(setTable(address, next, what));
  return (
    <section className="mt-2 border-rule border-t pt-2">
      <div className="mb-1 flex flex-wrap items-center gap-x-2 gap-y-1">
        <h3 className="font-semibold">{spec.label}</h3>
        <span className="num whitespace-nowrap text-ink-soft text-s">
          {rows.length} of {spec.most}
        </span>
        <span className="flex-1" />
        <Button pressed={listed} onClick={() => setListed(!listed)}>
          List
        </Button>
        <WordMenu word="Shape" commands={commands} />
        <Button
          disabled={rows.length >= spec.most}
          onClick={() => {
            change([...rows, nextRow(spec, rows)], `Add a ${spec.row}`);
            chooseRow(address, rows.length);
          }}
        >
          <Plus size={13} aria-hidden /> {spec.row}
        </Button>
      </div>
      {listed ? (
        <RowList address={address} spec={spec} rows={rows} chosen={chosen} />
      ) : (
        rows.length > 0 && <ChosenRow address={address} spec={spec} rows={rows} chosen={chosen} />
      )}
    </section>
  );
}

interface RowsProps {
  readonly address: string;
  readonly spec: TableSpec;
  readonly rows: readonly TableRow[];
  readonly chosen: number;
}

/** The row that is looked at, with its controls and what moves it. */
function ChosenRow({ address, spec, rows, chosen }: RowsProps) {
  const routes = useInstrument((i) => i.routes);
  const macros = useInstrument((i) => i.macros);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what can move it are the instrument's macros and envelopes
  const moves = useMemo(() => rowRouteCommands(address, chosen), [address, chosen, macros, routes]);
  return (
    <>
      <div className="flex items-center gap-1">
        <Button
          aria-label={`The ${spec.row} before`}
          disabled={chosen < 1}
          onClick={() => chooseRow(address, chosen - 1)}
        >
          <ChevronLeft size={13} aria-hidden />
        </Button>
        <span className="num min-w-20 text-center text-s">
          {spec.row} {chosen + 1}
        </span>
        <Button
          aria-label={`The ${spec.row} after`}
          disabled={chosen >= rows.length - 1}
          onClick={() => chooseRow(address, chosen + 1)}
        >
          <ChevronRight size={13} aria-hidden />
        </Button>
        <span className="flex-1" />
        <WordMenu word="Move it by" commands={moves} />
        <LockOf address={address} spec={spec} row={rows[chosen] ?? {}} at={chosen} />
        <Button
          aria-label={`Remove ${spec.row} ${chosen + 1}`}
          onClick={() => session.commit(removeRows(address, [chosen], `Remove ${spec.row} ${chosen + 1}`))}
        >
          <X size={13} aria-hidden />
        </Button>
      </div>
      {heardColumns(spec).map((c) => (
        <ParamControl key={c.id} address={addressInTable(address, chosen, c.id)} />
      ))}
    </>
  );
}

/** Locks a row against what is done with all of them. */
function LockOf({ address, spec, row, at }: { address: string; spec: TableSpec; row: TableRow; at: number }) {
  const locked = isLocked(row);
  return (
    <button
      type="button"
      aria-pressed={locked}
      aria-label={`Lock ${spec.row} ${at + 1}`}
      title={
        locked ? "Locked: it stays as it is in whatever is done with all" : "Lock it against what is done with all"
      }
      className={cx(
        "grid size-5 place-items-center rounded-m hover:bg-well",
        locked ? "text-ink" : "text-ink-soft hover:text-ink",
      )}
      onClick={() => toggleLock(address, at)}
    >
      {locked ? <Lock size={12} aria-hidden /> : <LockOpen size={12} aria-hidden />}
    </button>
  );
}

/** All rows as a list, so many at a time. */
function RowList({ address, spec, rows, chosen }: RowsProps) {
  const pages = Math.max(1, Math.ceil(rows.length / PAGE));
  const [turned, setTurned] = useState<number | null>(null);
  const heard = heardColumns(spec);
  const page = Math.min(pages - 1, turned ?? Math.floor(chosen / PAGE));
  const setCell = (r: number, column: NumberParam, value: number, gesture: string | null) =>
    session.commit(
      setTable(
        address,
        rows.map((row, i) => (i === r ? { ...row, [column.id]: value } : row)),
        `Set ${column.label.toLowerCase()} of ${spec.row} ${r + 1}`,
      ),
      gesture,
    );
  return (
    <>
      {pages > 1 && (
        <div className="mb-1 flex items-center gap-1 text-s">
          <Button aria-label="Rows before" disabled={page === 0} onClick={() => setTurned(page - 1)}>
            <ChevronLeft size={13} aria-hidden />
          </Button>
          <span className="num">
            {page * PAGE + 1}–{Math.min(rows.length, (page + 1) * PAGE)} of {rows.length}
          </span>
          <Button aria-label="Rows after" disabled={page >= pages - 1} onClick={() => setTurned(page + 1)}>
            <ChevronRight size={13} aria-hidden />
          </Button>
        </div>
      )}
      <table className="w-full">
        <thead>
          <tr>
            <th className="w-6 text-left font-normal text-ink-soft text-s">
              <span className="sr-only">Number</span>
            </th>
            {heard.map((c) => (
              <th key={c.id} title={c.help} className="text-left font-normal text-ink-soft text-s">
                {c.label.toLowerCase()}
              </th>
            ))}
            <th>
              <span className="sr-only">Lock</span>
            </th>
            <th>
              <span className="sr-only">Remove</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.slice(page * PAGE, (page + 1) * PAGE).map((row, i) => {
            const r = page * PAGE + i;
            return (
              <tr key={r} className={cx(r === chosen && "bg-tint-cobalt")}>
                <td className="num text-ink-soft text-s">{r + 1}</td>
                {heard.map((column) => {
                  const value = row[column.id] ?? column.default;
                  return (
                    <td key={column.id} className="pr-1 pb-0.5">
                      <Well
                        label={`${column.label} of ${spec.row} ${r + 1}`}
                        text={formatValue(column, value)}
                        width={heard.length < 4 ? 84 : column.unit === "decibels" ? 68 : 50}
                        align="right"
                        onType={(text) => {
                          const parsed = typedValue(column, text);
                          if (parsed !== null) setCell(r, column, Number(parsed), null);
                          return parsed !== null;
                        }}
                        onStep={(n) => setCell(r, column, valueAt(column, travelOf(column, value) + n / 100), "step")}
                      />
                    </td>
                  );
                })}
                <td className="w-6">
                  <LockOf address={address} spec={spec} row={row} at={r} />
                </td>
                <td className="w-6">
                  <button
                    type="button"
                    aria-label={`Remove ${spec.row} ${r + 1}`}
                    title={`Remove ${spec.row} ${r + 1}`}
                    className="grid size-5 place-items-center rounded-m text-ink-soft hover:bg-well hover:text-ink"
                    onClick={() => session.commit(removeRows(address, [r], `Remove ${spec.row} ${r + 1}`))}
                  >
                    <X size={12} aria-hidden />
                  </button>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </>
  );
}
