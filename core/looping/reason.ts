import type { Hertz } from "../audio";
import type { Flattening } from "../instrument";
import { formatNumber, plural } from "../params";
import type { LoopCandidate } from "./loop-candidate";

/** Whether a length is a whole number of periods, to a frame. */
const isWhole = (length: number, period: number): boolean =>
  Math.abs(length / period - Math.round(length / period)) * period <= 1;

/** Of a crossfade that its owner set, how it is faded. */
const LAWS = { gain: "equal gain", power: "equal power", match: "matched to its sides" } as const;

function lengthText(length: number, rate: Hertz, period: number | null, bars: number | null): string {
  const seconds = formatNumber("seconds", length / rate);
  if (bars !== null) {
    const whole = Math.abs(bars - Math.round(bars)) < 0.01;
    return `${whole ? plural(Math.round(bars), "bar") : `${bars.toFixed(2)} bars`}, ${seconds}`;
  }
  if (period === null) return seconds;
  return isWhole(length, period)
    ? `${Math.round(length / period)} whole periods`
    : `${seconds}, ${(length / period).toFixed(1)} periods`;
}

/** Why a loop is proposed, as a sentence with figures: what is best about it, and what is worst. */
export function reasonOf(loop: Omit<LoopCandidate, "reason">, rate: Hertz, period: number | null): string {
  const { start, end, parts, crossfade, law, mode, flat } = loop;
  const alike = `${Math.round(100 * Math.max(0, parts.alike))} %`;
  const joint = {
    forward: `both sides of the joint are alike to ${alike}`,
    backward: `both sides of the joint are alike to ${alike}`,
    alternating: `where it turns, both ways are alike to ${alike}`,
  }[mode];
  const levels =
    Math.abs(parts.level) < 0.3 || mode === "alternating"
      ? mode === "alternating"
        ? "ping-pong, so that both ends are as loud as each other"
        : "as loud at its end as at its start"
      : `${formatNumber("decibels", Math.abs(parts.level))} ${parts.level > 0 ? "louder" : "softer"} at its end than at its start`;
  const pulse =
    parts.pulse < 1 || parts.bars !== null ? "" : `, the level moves by ${formatNumber("decibels", parts.pulse)}`;
  const still =
    parts.lost < 2 || parts.bars !== null
      ? ""
      : `; ${formatNumber("decibels", parts.lost)} of the sound's movement stay outside it`;
  const even = flat ? `; levelled out by ${formatNumber("decibels", flat.amount * rangeOf(flat, start, end))}` : "";
  const because = law === "match" ? "" : `, as they are ${parts.alike >= 0.5 ? "alike" : "not alike"}`;
  const fade =
    crossfade === 0
      ? "no crossfade"
      : `crossfaded over ${formatNumber("seconds", crossfade / rate)} by ${LAWS[law]}${because}`;
  return `${lengthText(end - start, rate, period, parts.bars)}; ${joint}; ${levels}${pulse}${still}${even}; ${fade}`;
}

/** Decibels between the loudest and the faintest point of a level curve in a loop. */
function rangeOf({ from, step, levels }: Flattening, start: number, end: number): number {
  const within = levels.filter((_, n) => from + n * step >= start - step && from + n * step <= end + step);
  return within.length > 0 ? Math.max(...within) - Math.min(...within) : 0;
}
