import { type Instrument, newInstrument, setParam, setSource, setTable, together } from "../instrument";
import type { ParamId, TableRow, UnitKind } from "../units";
import { type Bench, benchOf, RATE } from "./test-bench";

/** Level of the whole, so that the limiter stays out of it. */
const WHOLE = -12;
/** The same as a factor. */
export const FACTOR = 10 ** (WHOLE / 20);
/** Values of a unit by their ids. */
export type Settings = { readonly [I in ParamId]?: number | string };

/** An instrument whose only layer is computed: full level at once, nothing in its way. */
export function computed(kind: UnitKind, params: Settings = {}, rows: readonly TableRow[] | null = null): Instrument {
  const made = setSource("main", kind).apply(newInstrument("bench", "Bench"));
  const at = "layers/main";
  return together("", [
    ...Object.entries(params).map(([id, value]) => setParam(made, `${at}/source/${id}`, value)),
    ...(rows ? [setTable(`${at}/source`, rows, "Set partials")] : []),
    setParam(made, `${at}/stages/filter/type`, "off"),
    setParam(made, `${at}/strip/level`, 0),
    setParam(made, `${at}/strip/velocity`, 0),
    setParam(made, `${at}/amp/attack`, 0),
    setParam(made, `${at}/amp/sustain`, 1),
    setParam(made, "play/level", WHOLE),
    setParam(made, "effects/reverb/mix", 0),
  ]).apply(made);
}

/** The same with a key held. */
export const begun = (instrument: Instrument, key: number): Bench => {
  const b = benchOf(instrument);
  b.engine.midi(0x90, key, 100);
  return b;
};

/** Amplitude of a sine at a frequency in a sound, by a window without leakage (Blackman–Harris). */
export function amplitude(x: Float32Array, hertz: number): number {
  const n = x.length;
  let re = 0;
  let im = 0;
  let sum = 0;
  for (let i = 0; i < n; i++) {
    const t = (2 * Math.PI * i) / n;
    const w = 0.35875 - 0.48829 * Math.cos(t) + 0.14128 * Math.cos(2 * t) - 0.01168 * Math.cos(3 * t);
    const phase = (2 * Math.PI * hertz * i) / RATE;
    re += w * (x[i] as number) * Math.cos(phase);
    im -= w * (x[i] as number) * Math.sin(phase);
    sum += w;
  }
  return (2 * Math.hypot(re, im)) / sum;
}
/** A factor in decibels, silence far down. */
export const decibels = (gain: number): number => 20 * Math.log10(Math.max(1e-12, gain));
