import type { Hertz } from "../audio";
import { formatNumber } from "../params";
import type { LoopCandidate } from "./loop-candidate";

/** Whether a length is a whole number of periods, to a frame. */
const isWhole = (length: number, period: number): boolean =>
  Math.abs(length / period - Math.round(length / period)) * period <= 1;

/** Why a loop is proposed, as a sentence with figures: what is best about it, and what is worst. */
export function reasonOf(loop: Omit<LoopCandidate, "reason">, rate: Hertz, period: number | null): string {
  const { start, end, parts, crossfade, law } = loop;
  const length = end - start;
  const whole =
    period === null
      ? formatNumber("seconds", length / rate)
      : isWhole(length, period)
        ? `${Math.round(length / period)} whole periods`
        : `${formatNumber("seconds", length / rate)}, ${(length / period).toFixed(1)} periods`;
  const joint = `both sides of the joint are alike to ${Math.round(100 * Math.max(0, parts.alike))} %`;
  const levels =
    Math.abs(parts.level) < 0.3
      ? "as loud at its end as at its start"
      : `${formatNumber("decibels", Math.abs(parts.level))} ${parts.level > 0 ? "louder" : "softer"} at its end than at its start`;
  const pulse = parts.pulse < 1 ? "" : `, the level moves by ${formatNumber("decibels", parts.pulse)}`;
  const fade =
    crossfade === 0
      ? "no crossfade is needed"
      : `crossfaded over ${formatNumber("seconds", crossfade / rate)} by equal ${law}, as they are ${law === "gain" ? "alike" : "not alike"}`;
  return `${whole}; ${joint}; ${levels}${pulse}; ${fade}`;
}
