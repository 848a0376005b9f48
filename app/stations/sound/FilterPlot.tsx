import { useCallback } from "react";
import type { Unit } from "../../../core/instrument";
import { ResponsePlot } from "./ResponsePlot";
import { filterDecibels } from "./unit-picture";

const RANGE = [30, -48] as const;
const LINES = [0, -24];

/** The filter's response in decibels over frequency. */
export function FilterPlot({ unit }: { unit: Unit }) {
  const at = useCallback((frequency: number) => filterDecibels(unit, frequency), [unit]);
  const cutoff = Number(unit.params.cutoff);
  const mode = String(unit.params.mode);
  return (
    <ResponsePlot
      label={`Response of the filter: ${mode}, ${Math.round(cutoff)} Hz`}
      at={at}
      range={RANGE}
      lines={LINES}
      mark={mode === "off" ? null : cutoff}
    />
  );
}
