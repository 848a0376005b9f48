import { Plus, Trash2 } from "lucide-react";
import type { Curve, CurvePoint } from "../../../core/instrument";
import { formatNumber, parseNumber } from "../../../core/params";
import { Button } from "../../widgets/Button";
import { Well } from "../../widgets/Well";

const plain = (x: number): string => String(Math.round(x * 1000) / 1000).replace("-", "−");

/** The points of a curve as numbers: where, how high, and how the line to the next is bent. */
export function CurveTable({
  curve,
  xLabel,
  most,
  low,
  onChange,
}: {
  curve: Curve;
  xLabel: string;
  /** Highest x. */
  most: number;
  /** Lowest y: 0 or −1. */
  low: number;
  onChange: (curve: Curve, gesture: string | null) => void;
}) {
  const put = (i: number, change: Partial<CurvePoint>, gesture: string | null) => {
    const next = curve.map((p, n) => (n === i ? { ...p, ...change } : p));
    onChange(
      next.sort((a, b) => a.x - b.x),
      gesture,
    );
  };
  const cell = (i: number, id: keyof CurvePoint, label: string, limit: (x: number) => number) => {
    const value = curve[i]?.[id] ?? 0;
    const text = id === "bend" || id === "y" ? formatNumber("percent", value) : plain(value);
    const parse = (t: string) => parseNumber(id === "bend" || id === "y" ? "percent" : "ratio", t);
    return (
      <Well
        label={`${label} of point ${i + 1}`}
        text={text}
        width={64}
        align="right"
        onType={(t) => {
          const parsed = parse(t);
          if (parsed === null) return false;
          put(i, { [id]: limit(parsed) }, null);
          return true;
        }}
        onStep={(steps) => put(i, { [id]: limit(value + steps * 0.01) }, "step")}
      />
    );
  };
  const within = (least: number, most: number) => (x: number) => Math.min(most, Math.max(least, x));
  return (
    <table className="mt-1 border-separate border-spacing-x-1 text-s">
      <thead className="text-left text-ink-soft">
        <tr>
          <th className="font-normal">point</th>
          <th className="font-normal">{xLabel.toLowerCase()}</th>
          <th className="font-normal">level</th>
          <th className="font-normal">bend</th>
        </tr>
      </thead>
      <tbody>
        {curve.map((point, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: points have no names but their places
          <tr key={i}>
            <td className="num pr-2 text-ink-faint">{i + 1}</td>
            <td>{cell(i, "x", xLabel, within(0, most))}</td>
            <td>{cell(i, "y", "Level", within(low, 1))}</td>
            <td>{cell(i, "bend", "Bend", within(-1, 1))}</td>
            <td>
              <Button
                look="quiet"
                aria-label={`Remove point ${i + 1}`}
                className="px-1"
                disabled={curve.length < 2}
                onClick={() =>
                  onChange(
                    curve.filter((p) => p !== point),
                    null,
                  )
                }
              >
                <Trash2 size={12} aria-hidden />
              </Button>
            </td>
          </tr>
        ))}
      </tbody>
      <tfoot>
        <tr>
          <td colSpan={4} className="pt-1">
            <Button
              disabled={curve.length >= 64}
              onClick={() => {
                const last = curve.at(-1);
                const before = curve.at(-2);
                const x = last && before ? (last.x + before.x) / 2 : 0.5;
                onChange(
                  [...curve, { x, y: 0.5, bend: 0 }].sort((a, b) => a.x - b.x),
                  null,
                );
              }}
            >
              <Plus size={12} aria-hidden /> Point
            </Button>
          </td>
        </tr>
      </tfoot>
    </table>
  );
}
