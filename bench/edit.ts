import { bench, newLoop, peak, RATE, sine } from "../core/engine/test-bench";
import { listParams, setParam } from "../core/instrument";
import { valueAt } from "../core/params";
import { type Figure, round } from "./figure";

/** Largest step that stands alone: a difference between neighbours that is unlike those before and after it. */
export function stepOf(x: Float32Array): number {
  let most = 0;
  for (let i = 3; i < x.length; i++) {
    const before = (x[i - 2] as number) - (x[i - 3] as number);
    const here = (x[i - 1] as number) - (x[i - 2] as number);
    const after = (x[i] as number) - (x[i - 1] as number);
    most = Math.max(most, Math.abs(here - (before + after) / 2));
  }
  return most;
}

/**
 * Every number of a layer that can be turned, turned from end to end and back ten times a second under a held note: the largest
 * step that stands alone, beyond those of the still sound, against the level. A ramp has none, however steep.
 */
export function edit(): Figure[] {
  const tone = sine(2 * RATE, 150, 0.25);
  const zone = { root: 60, loop: newLoop({ start: RATE / 2, end: RATE / 2 + 320 * 100, fade: 0 }) };
  const start = bench([tone], [zone], (i) =>
    setParam(
      setParam(i, "layers/main/stages/filter/type", "low").apply(i),
      "layers/main/stages/filter/cutoff",
      3000,
    ).apply(setParam(i, "layers/main/stages/filter/type", "low").apply(i)),
  );
  let worst = Number.NEGATIVE_INFINITY;
  let name = "";
  for (const { address, spec } of listParams(start.instrument)) {
    if (spec.type !== "number" || !address.startsWith("layers/main/") || spec.mod === "none") continue;
    if (/source\/start|chance|choke|amp\/(delay|attack|hold|decay|release)/.test(address)) continue;
    // Pitch alone bends a sine as much as its turning does.
    if (/transpose|fine|tune/.test(address)) continue;
    const run = (turn: boolean): Float32Array => {
      const b = bench([tone], [zone], () => start.instrument);
      b.engine.midi(0x90, 60, 127);
      b.play(RATE / 2);
      const out = new Float32Array(RATE);
      for (let at = 0; at < RATE; at += 480) {
        if (turn) {
          // From end to end in 50 ms, a value every 10 ms, as a fast hand with a mouse gives them.
          const place = Math.abs((((at / RATE) * 20) % 2) - 1);
          b.change(setParam(start.instrument, address, valueAt(spec, 0.15 + 0.7 * place)).apply(start.instrument));
        }
        out.set(b.play(480).left, at);
      }
      return out;
    };
    const still = run(false);
    const moved = run(true);
    const step = 20 * Math.log10(Math.max(1e-9, stepOf(moved) - stepOf(still)) / Math.max(peak(moved), peak(still)));
    if (step > worst) {
      worst = step;
      name = address;
    }
  }
  return [
    {
      name: `edit, largest step while a control is turned (${name})`,
      value: round(worst, 1),
      unit: "dB",
      hold: "≤ −70 dB",
      pass: worst <= -70,
    },
  ];
}
