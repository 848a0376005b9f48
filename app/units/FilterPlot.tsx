import { useCallback } from "react";
import type { Unit } from "../../core/instrument";
import { formatNumber } from "../../core/params";
import type { ParamValues } from "../../core/units";
import { PlotHandle } from "./PlotHandle";
import { ResponsePlot } from "./ResponsePlot";
import { filterDecibels, frequencyAt, placeOf } from "./unit-picture";

const TOP = 30;
const BOTTOM = -48;
const RANGE = [TOP, BOTTOM] as const;
const LINES = [0, -24];

/** The filter's response in decibels over frequency, with a handle: across its cutoff, up and down its resonance. */
export function FilterPlot({ address, unit }: { address: string; unit: Unit }) {
  const at = useCallback((frequency: number) => filterDecibels(unit, frequency), [unit]);
  const cutoff = Number(unit.params.cutoff);
  const resonance = Number(unit.params.resonance);
  const mode = String(unit.params.mode);
  const off = mode === "off";
  return (
    <ResponsePlot
      label={`Response of the filter: ${mode}, ${Math.round(cutoff)} Hz`}
      at={at}
      range={RANGE}
      lines={LINES}
      mark={off ? null : cutoff}
      live
    >
      {!off && (
        <PlotHandle
          label={`Cutoff ${formatNumber("hertz", cutoff)}, resonance ${formatNumber("percent", resonance)}`}
          help="Arrows move it: across the cutoff, up and down the resonance."
          address={address}
          sign="f"
          x={placeOf(cutoff)}
          y={(TOP - filterDecibels(unit, cutoff)) / (TOP - BOTTOM)}
          from={{ cutoff, resonance }}
          drag={(from, across, down) => ({
            cutoff: frequencyAt(placeOf(from.cutoff) + across),
            resonance: from.resonance - down * 2,
          })}
          step={(across, up, fine, other): ParamValues | null => {
            if (other) return null;
            if (across !== 0) return { cutoff: cutoff * 2 ** (across / (fine ? 48 : 12)) };
            return { resonance: resonance + up * (fine ? 0.005 : 0.02) };
          }}
        />
      )}
    </ResponsePlot>
  );
}
