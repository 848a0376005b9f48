import { useCallback } from "react";
import type { Unit } from "../../core/instrument";
import { formatNumber } from "../../core/params";
import type { ParamValues } from "../../core/units";
import { BANDS, bandsOf, hasGain } from "./bands";
import { PlotHandle } from "./PlotHandle";
import { ResponsePlot } from "./ResponsePlot";
import { equaliserDecibels, frequencyAt, placeOf } from "./unit-picture";

/** Decibels from the top to the bottom of the plot. */
const TOP = 24;
const LINES = [12, 0, -12];
const RANGE = [TOP, -TOP] as const;

/** An equaliser's response, each band of it by a handle: across its frequency, up and down its gain. */
export function EqualiserPlot({ address, unit }: { address: string; unit: Unit }) {
  const at = useCallback((frequency: number) => equaliserDecibels(unit, frequency), [unit]);
  return (
    <ResponsePlot label="Response of the equaliser" at={at} range={RANGE} lines={LINES} mark={null} live>
      {bandsOf(unit).map((band, i) => {
        const n = BANDS[i] as number;
        if (band.kind === "off") return null;
        const gains = hasGain(band.kind);
        const text = `${formatNumber("hertz", band.frequency)}${gains ? `, ${formatNumber("decibels", band.gain)}` : ""}`;
        return (
          <PlotHandle
            key={n}
            label={`Band ${n}: ${text}`}
            help="Arrows move it, Alt with up and down makes it narrower or wider."
            address={address}
            sign={String(n)}
            x={placeOf(band.frequency)}
            y={0.5 - (gains ? band.gain : 0) / TOP / 2}
            from={band}
            drag={(from, across, down) => ({
              [`frequency${n}`]: frequencyAt(placeOf(from.frequency) + across),
              ...(gains ? { [`gain${n}`]: from.gain - down * 2 * TOP } : {}),
            })}
            step={(across, up, fine, other): ParamValues | null => {
              if (other) return up === 0 ? null : { [`q${n}`]: band.q * 2 ** (up / 6) };
              if (across !== 0) return { [`frequency${n}`]: band.frequency * 2 ** (across / (fine ? 48 : 12)) };
              return gains ? { [`gain${n}`]: band.gain + up * (fine ? 0.1 : 0.5) } : null;
            }}
          />
        );
      })}
    </ResponsePlot>
  );
}
