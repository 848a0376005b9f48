import { useMemo } from "react";
import {
  CartesianGrid,
  ReferenceLine,
  ResponsiveContainer,
  Scatter,
  ScatterChart,
  Tooltip,
  XAxis,
  YAxis,
} from "recharts";
import { nameOfNote } from "../../../../core/audio";
import { formatNumber } from "../../../../core/params";
import { useInstrument } from "../../../state/use-session";
import { type ChartPoint, chartPoints } from "./charts-data";

const HEIGHT = 150;
const octaves = (low: number, high: number): number[] =>
  Array.from({ length: 11 }, (_, i) => i * 12).filter((key) => key >= low && key <= high);

interface PlotProps {
  readonly title: string;
  /** What the chart says, in words. */
  readonly summary: string;
  readonly points: readonly ChartPoint[];
  readonly value: "cents" | "level";
  readonly domain: readonly [number, number];
  readonly unit: "cents" | "decibels";
}

function Plot({ title, summary, points, value, domain, unit }: PlotProps) {
  const roots = points.map((p) => p.root);
  const [low, high] = [Math.min(...roots) - 1, Math.max(...roots) + 1];
  return (
    <figure className="mt-4" aria-label={`${title}: ${summary}`}>
      <figcaption className="font-semibold">
        {title} <span className="font-normal text-ink-soft text-s">{summary}</span>
      </figcaption>
      <div style={{ height: HEIGHT }}>
        <ResponsiveContainer>
          <ScatterChart accessibilityLayer={false} margin={{ top: 6, right: 6, bottom: 0, left: -18 }}>
            <CartesianGrid stroke="var(--rule)" strokeDasharray="1 4" />
            <XAxis
              type="number"
              dataKey="root"
              domain={[low, high]}
              ticks={octaves(low, high)}
              tickFormatter={nameOfNote}
              stroke="var(--rule-strong)"
              tick={{ fill: "var(--ink-soft)", fontSize: 10.5 }}
            />
            <YAxis
              type="number"
              dataKey={value}
              domain={[...domain]}
              stroke="var(--rule-strong)"
              tick={{ fill: "var(--ink-soft)", fontSize: 10.5 }}
            />
            {value === "cents" && <ReferenceLine y={0} stroke="var(--ink)" />}
            <Tooltip
              isAnimationActive={false}
              cursor={{ stroke: "var(--cobalt)" }}
              content={({ payload }) => {
                const point = payload?.[0]?.payload as ChartPoint | undefined;
                const shown = point?.[value];
                return point && shown != null ? (
                  <span className="num rounded-s border border-rule-strong bg-sheet px-1.5 py-0.5 text-s">
                    {nameOfNote(point.root)} at {point.velocity}: {formatNumber(unit, shown)}
                  </span>
                ) : null;
              }}
            />
            <Scatter
              data={points as ChartPoint[]}
              fill="var(--ink)"
              fillOpacity={0.6}
              isAnimationActive={false}
              shape={Dot}
            />
          </ScatterChart>
        </ResponsiveContainer>
      </div>
    </figure>
  );
}

const Dot = ({ cx, cy }: { cx?: number; cy?: number }) => (
  <circle cx={cx} cy={cy} r={2.2} className="fill-ink" fillOpacity={0.6} />
);

/** Tuning and level over the keys; the list of zones shows the same in numbers. */
export default function Charts() {
  const layers = useInstrument((i) => i.layers);
  const samples = useInstrument((i) => i.samples);
  const points = useMemo(() => chartPoints(layers, samples), [layers, samples]);
  const tuned = points.filter((p) => p.cents !== null);
  if (points.length === 0) return null;
  const worst = tuned.reduce((most, p) => Math.max(most, Math.abs(p.cents ?? 0)), 0);
  const levels = points.map((p) => p.level);
  const [least, most] = [Math.min(...levels), Math.max(...levels)];
  return (
    <>
      {tuned.length > 0 && (
        <Plot
          title="Tuning"
          summary={`off by at most ${formatNumber("cents", worst)}`}
          points={tuned}
          value="cents"
          unit="cents"
          domain={[-Math.max(20, Math.ceil(worst / 10) * 10), Math.max(20, Math.ceil(worst / 10) * 10)]}
        />
      )}
      <Plot
        title="Level"
        summary={`${formatNumber("decibels", least)} to ${formatNumber("decibels", most)}`}
        points={points}
        value="level"
        unit="decibels"
        domain={[Math.floor(least / 6) * 6, Math.ceil((most + 1) / 6) * 6]}
      />
    </>
  );
}
