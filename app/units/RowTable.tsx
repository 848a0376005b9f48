import { Plus, X } from "lucide-react";
import { setTable, type Unit } from "../../core/instrument";
import { formatValue, type NumberParam, parseValue, travelOf, valueAt } from "../../core/params";
import { type TableRow, unitSpec } from "../../core/units";
import { session } from "../state/session";
import { Button } from "../widgets/Button";
import { Well } from "../widgets/Well";
import { FromSample } from "./FromSample";
import { nextRow, rowsOf } from "./unit-rows";

/** The rows of a unit's table, such as partials or modes, a line each. */
export function RowTable({ address, unit }: { address: string; unit: Unit }) {
  const spec = unitSpec(unit.kind).table;
  const rows = rowsOf(unit);
  if (!spec) return null;
  const change = (next: readonly TableRow[], what: string, gesture: string | null = null) =>
    session.commit(setTable(address, next, what), gesture);
  const setCell = (r: number, column: NumberParam, value: number, gesture: string | null) =>
    change(
      rows.map((row, i) => (i === r ? { ...row, [column.id]: value } : row)),
      `Set ${column.label.toLowerCase()} of ${spec.row} ${r + 1}`,
      gesture,
    );
  return (
    <section className="mt-2 border-rule border-t pt-2">
      <div className="mb-1 flex items-center gap-2">
        <h3 className="font-semibold">{spec.label}</h3>
        <span className="num whitespace-nowrap text-ink-soft text-s">
          {rows.length} of {spec.most}
        </span>
        <span className="flex-1" />
        <FromSample address={address} unit={unit} />
        <Button
          disabled={rows.length >= spec.most}
          onClick={() => change([...rows, nextRow(spec, rows)], `Add a ${spec.row}`)}
        >
          <Plus size={13} aria-hidden /> {spec.row}
        </Button>
        <Button
          disabled={unit.table === undefined}
          title={`The ${spec.label.toLowerCase()} as they are at first`}
          onClick={() => change(spec.default, `Reset ${spec.label.toLowerCase()}`)}
        >
          Reset
        </Button>
      </div>
      <table className="w-full">
        <thead>
          <tr>
            <th className="w-6 text-left font-normal text-ink-soft text-s">
              <span className="sr-only">Number</span>
            </th>
            {spec.columns.map((c) => (
              <th key={c.id} title={c.help} className="text-left font-normal text-ink-soft text-s">
                {c.label.toLowerCase()}
              </th>
            ))}
            <th>
              <span className="sr-only">Remove</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row, r) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: rows have no names but their numbers
            <tr key={r}>
              <td className="num text-ink-soft text-s">{r + 1}</td>
              {spec.columns.map((column) => {
                const value = row[column.id] ?? column.default;
                return (
                  <td key={column.id} className="pr-1 pb-0.5">
                    <Well
                      label={`${column.label} of ${spec.row} ${r + 1}`}
                      text={formatValue(column, value)}
                      width={84}
                      align="right"
                      onType={(text) => {
                        const parsed = parseValue(column, text);
                        if (parsed !== null) setCell(r, column, Number(parsed), null);
                        return parsed !== null;
                      }}
                      onStep={(n) => setCell(r, column, valueAt(column, travelOf(column, value) + n / 100), "step")}
                    />
                  </td>
                );
              })}
              <td className="w-6">
                <button
                  type="button"
                  aria-label={`Remove ${spec.row} ${r + 1}`}
                  title={`Remove ${spec.row} ${r + 1}`}
                  className="grid size-5 place-items-center rounded-m text-ink-soft hover:bg-well hover:text-ink"
                  onClick={() =>
                    change(
                      rows.filter((_, i) => i !== r),
                      `Remove ${spec.row} ${r + 1}`,
                    )
                  }
                >
                  <X size={12} aria-hidden />
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
