/** Points on either side of a step whose corners are rounded, places between two frames, and numbers for each: of a step, a bend, a bow, a twist. */
export const STEP_HALF = 16;
export const STEP_PLACES = 64;
const ORDERS = 4;
/** Bytes of the table. */
export const STEP_FLOATS = (STEP_PLACES + 1) * STEP_HALF * 2 * ORDERS;

/** Where the sinc is cut off, as a share of half the rate, and how steep its window is (Kaiser): what folds back below 20 kHz lies below −90 dB. */
const CUTOFF = 0.9;
const BETA = 9;
/** Points in a frame by which it is integrated. */
const FINE = 256;

function bessel0(x: number): number {
  let [sum, term] = [1, 1];
  for (let k = 1; k < 40; k++) {
    term *= (x / 2 / k) ** 2;
    sum += term;
  }
  return sum;
}

/** The integral of a curve, from both ends to the middle, so that nothing is left there; `stepped`: it has a step of 1 in the middle. */
function integrated(curve: Float64Array, stepped: boolean): Float64Array {
  const last = curve.length - 1;
  const half = last / 2;
  const out = new Float64Array(curve.length);
  const at = (i: number) => (stepped && i === half ? 0.5 : (curve[i] as number));
  for (let i = 1; i <= half; i++) out[i] = (out[i - 1] as number) + (at(i - 1) + at(i)) / 2 / FINE;
  for (let i = last - 1; i > half; i--)
    out[i] = (out[i + 1] as number) - ((curve[i + 1] as number) + (curve[i] as number)) / 2 / FINE;
  return out;
}

/**
 * What a step, a bend, a bow and a twist (the first to the fourth integral of an impulse) that happen between two frames lack to be band-limited (Brandt, 2001; here with
 * a symmetrical windowed sinc): for each place between frames the 32 frames around it.
 */
export function makeStepTable(): Float32Array {
  const points = STEP_HALF * 2 * FINE;
  const impulse = new Float64Array(points + 1);
  let sum = 0;
  for (let i = 0; i <= points; i++) {
    const x = i / FINE - STEP_HALF;
    const sinc = x === 0 ? CUTOFF : Math.sin(Math.PI * CUTOFF * x) / (Math.PI * x);
    impulse[i] = (sinc * bessel0(BETA * Math.sqrt(Math.max(0, 1 - (x / STEP_HALF) ** 2)))) / bessel0(BETA);
    sum += (impulse[i] as number) / FINE;
  }
  const step = new Float64Array(points + 1);
  const half = points / 2;
  let integral = 0;
  for (let i = 1; i <= points; i++) {
    integral += ((impulse[i - 1] as number) + (impulse[i] as number)) / 2 / FINE / sum;
    step[i] = integral - (i > half ? 1 : i === half ? 0.5 : 0);
  }
  const orders: Float64Array[] = [step];
  for (let o = 1; o < ORDERS; o++) orders.push(integrated(orders[o - 1] as Float64Array, o === 1));
  const out = new Float32Array(STEP_FLOATS);
  for (let place = 0; place <= STEP_PLACES; place++)
    for (let tap = 0; tap < STEP_HALF * 2; tap++) {
      const at = Math.round((tap + place / STEP_PLACES) * FINE);
      for (let o = 0; o < ORDERS; o++)
        out[(place * STEP_HALF * 2 + tap) * ORDERS + o] = (orders[o]?.[Math.min(points, at)] as number) ?? 0;
      // At the step itself the frames before it and those after it each have their own side of it.
      if (at === half) out[(place * STEP_HALF * 2 + tap) * ORDERS] = place === 0 ? -0.5 : 0.5;
    }
  return out;
}
