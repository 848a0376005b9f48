import type { DialForm } from "../../core/face";

const SWEEP = 270;
const point = (radius: number, travel: number): string => {
  const angle = ((travel * SWEEP - SWEEP / 2 - 90) * Math.PI) / 180;
  return `${50 + radius * Math.cos(angle)} ${50 + radius * Math.sin(angle)}`;
};
const arc = (radius: number, from: number, to: number): string =>
  `M${point(radius, from)}A${radius} ${radius} 0 ${(to - from) * SWEEP > 180 ? 1 : 0} 1 ${point(radius, to)}`;
const slice = (radius: number, to: number): string =>
  `M50 50L${point(radius, 0)}A${radius} ${radius} 0 ${to * SWEEP > 180 ? 1 : 0} 1 ${point(radius, to)}Z`;

const TENTHS = Array.from({ length: 11 }, (_, i) => i / 10);
const DOTS = Array.from({ length: 15 }, (_, i) => i / 14);
// One path for all of them: of hundreds of dials each element counts.
const ticks = (from: number, to: number): string => TENTHS.map((t) => `M${point(from, t)}L${point(to, t)}`).join("");
const dots = (places: readonly number[]): string => places.map((t) => `M${point(42, t)}h0`).join("");
const OUTER_TICKS = ticks(44, 49);
const INNER_TICKS = ticks(38, 44);

/** A dial as its theme draws it: what it says is how far it is turned, from the lower left to the lower right. */
export function DialFace({ form, travel, size }: { form: DialForm; travel: number; size: number }) {
  return (
    <svg width={size} height={size} viewBox="0 0 100 100" aria-hidden="true" style={{ display: "block" }}>
      {DRAWN[form](travel)}
    </svg>
  );
}

const DRAWN: Readonly<Record<DialForm, (travel: number) => React.ReactNode>> = {
  hand: (travel) => (
    <>
      <path d={OUTER_TICKS} stroke="var(--f-soft)" strokeWidth={1.5} />
      <path d={arc(39, 0, 1)} fill="none" stroke="var(--f-fill)" strokeWidth={5} />
      {travel > 0.002 && <path d={arc(39, 0, travel)} fill="none" stroke="var(--f-ink)" strokeWidth={5} />}
      <circle cx={50} cy={50} r={30} fill="var(--f-ground)" stroke="var(--f-ink)" strokeWidth={1.5} />
      <path d={`M${point(12, travel)}L${point(29, travel)}`} stroke="var(--f-ink)" strokeWidth={4} />
    </>
  ),
  slice: (travel) => (
    <>
      <circle cx={50} cy={50} r={46} fill="var(--f-fill)" />
      {travel > 0.002 && <path d={slice(46, travel)} fill="var(--f-ink)" />}
      <path d={`M50 50L${point(49, travel)}`} stroke="var(--f-spot)" strokeWidth={6} />
    </>
  ),
  ring: (travel) => (
    <>
      <path d={arc(40, 0, 1)} fill="none" stroke="var(--f-fill)" strokeWidth={14} strokeLinecap="round" />
      {travel > 0.002 && (
        <path d={arc(40, 0, travel)} fill="none" stroke="var(--f-spot)" strokeWidth={14} strokeLinecap="round" />
      )}
      <circle cx={point(40, travel).split(" ")[0]} cy={point(40, travel).split(" ")[1]} r={4} fill="var(--f-on-spot)" />
    </>
  ),
  block: (travel) => (
    <>
      <rect x={8} y={8} width={84} height={84} fill="var(--f-fill)" />
      <rect x={8} y={92 - 84 * travel} width={84} height={84 * travel} fill="var(--f-ink)" />
      <path d={`M4 ${92 - 84 * travel}H96`} stroke="var(--f-spot)" strokeWidth={5} />
      <rect x={8} y={8} width={84} height={84} fill="none" stroke="var(--f-ink)" strokeWidth={4} />
    </>
  ),
  line: (travel) => (
    <>
      <circle cx={50} cy={50} r={44} fill="none" stroke="var(--f-ink)" strokeWidth={1} strokeDasharray="2 3" />
      <path d={INNER_TICKS} stroke="var(--f-ink)" strokeWidth={1} />
      <path d={`M50 50L${point(44, travel)}`} stroke="var(--f-spot)" strokeWidth={2.5} />
      <circle cx={50} cy={50} r={3.5} fill="none" stroke="var(--f-ink)" strokeWidth={1.5} />
    </>
  ),
  dots: (travel) => (
    <>
      <circle cx={50} cy={50} r={28} fill="var(--f-fill)" />
      <path
        d={dots(DOTS.filter((t) => t > travel + 1e-6))}
        stroke="var(--f-fill)"
        strokeWidth={7.2}
        strokeLinecap="round"
      />
      <path
        d={dots(DOTS.filter((t) => t <= travel + 1e-6))}
        stroke="var(--f-spot)"
        strokeWidth={7.2}
        strokeLinecap="round"
      />
      <path
        d={`M${point(14, travel)}L${point(25, travel)}`}
        stroke="var(--f-ink)"
        strokeWidth={5}
        strokeLinecap="round"
      />
    </>
  ),
};
