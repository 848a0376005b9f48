/** A sine that dies away, a·e^((−fall + i·turn)·n): of a frame's time n what is heard is the real part. */
export interface DampedSine {
  /** Radians per frame. */
  readonly turn: number;
  /** Nepers per frame. */
  readonly fall: number;
  /** Amplitude at frame 0, as a complex number. */
  readonly re: number;
  readonly im: number;
}

/** The largest step in one round, as a share of how broad a sine's line is. */
const STRIDE = 1.5;
/** By how much a row of the equations is favoured, so that sines on top of each other don't make them unsolvable. */
const RIDGE = 1e-9;

/** Solves a symmetric, positive definite set of equations (Cholesky) in place; false where it isn't. */
function solve(a: Float64Array, b: Float64Array, n: number): boolean {
  for (let j = 0; j < n; j++) {
    let diagonal = a[j * n + j] as number;
    for (let k = 0; k < j; k++) diagonal -= (a[j * n + k] as number) ** 2;
    if (!(diagonal > 0)) return false;
    const root = Math.sqrt(diagonal);
    a[j * n + j] = root;
    for (let i = j + 1; i < n; i++) {
      let sum = a[i * n + j] as number;
      const [row, other] = [i * n, j * n];
      for (let k = 0; k < j; k++) sum -= (a[row + k] as number) * (a[other + k] as number);
      a[row + j] = sum / root;
    }
  }
  for (let i = 0; i < n; i++) {
    let sum = b[i] as number;
    for (let k = 0; k < i; k++) sum -= (a[i * n + k] as number) * (b[k] as number);
    b[i] = sum / (a[i * n + i] as number);
  }
  for (let i = n - 1; i >= 0; i--) {
    let sum = b[i] as number;
    for (let k = i + 1; k < n; k++) sum -= (a[k * n + i] as number) * (b[k] as number);
    b[i] = sum / (a[i * n + i] as number);
  }
  return true;
}

/** Σ nᵐ·wⁿ over the frames 0 … N − 1 for m = 0, 1, 2, in closed form; w = e^(re + i·im). Written to `out` as three complex numbers. */
function sums(re: number, im: number, frames: number, out: Float64Array): void {
  const size = Math.exp(re);
  const [wr, wi] = [size * Math.cos(im), size * Math.sin(im)];
  const [dr, di] = [1 - wr, -wi];
  const distance = dr * dr + di * di;
  if (distance * frames * frames < 1e-7) {
    // All but 1 all the way.
    out.set([frames, 0, (frames * (frames - 1)) / 2, 0, ((frames - 1) * frames * (2 * frames - 1)) / 6, 0]);
    return;
  }
  const last = Math.exp(re * frames);
  const [er, ei] = [last * Math.cos(im * frames), last * Math.sin(im * frames)];
  // 1 / (1 − w).
  const [qr, qi] = [dr / distance, -di / distance];
  const s0r = (1 - er) * qr + ei * qi;
  const s0i = (1 - er) * qi - ei * qr;
  // S₁ = (w·S₀ − (N − 1)·wᴺ − …) from the differences: (1 − w)·S₁ = w·S₀ − N·wᴺ + … ; S₂ likewise.
  const n = frames;
  const t1r = s0r - 1 - (n - 1) * er;
  const t1i = s0i - (n - 1) * ei;
  const s1r = t1r * qr - t1i * qi;
  const s1i = t1r * qi + t1i * qr;
  // (1 − w)·S₂ = Σ (2n − 1)·wⁿ for n ≥ 1, less the last square.
  const t2r = 2 * s1r - (s0r - 1) - (n - 1) ** 2 * er;
  const t2i = 2 * s1i - s0i - (n - 1) ** 2 * ei;
  out[0] = s0r;
  out[1] = s0i;
  out[2] = s1r;
  out[3] = s1i;
  out[4] = t2r * qr - t2i * qi;
  out[5] = t2r * qi + t2i * qr;
}

/** Takes sines that die away off a sound. */
export function withoutSines(x: Float64Array, sines: readonly DampedSine[]): Float64Array {
  const rest = Float64Array.from(x);
  for (const { turn, fall, re, im } of sines) {
    const size = Math.exp(-fall);
    const [c, s] = [size * Math.cos(turn), size * Math.sin(turn)];
    let [a, b] = [re, im];
    for (let n = 0; n < rest.length; n++) {
      rest[n] = (rest[n] as number) - a;
      const next = a * c - b * s;
      b = a * s + b * c;
      a = next;
    }
  }
  return rest;
}

/** Σ x·zⁿ and Σ x·n·zⁿ for z = e^(−fall + i·turn), as four numbers. */
function correlate(x: Float64Array, { turn, fall }: DampedSine): [number, number, number, number] {
  const size = Math.exp(-fall);
  const [c, s] = [size * Math.cos(turn), size * Math.sin(turn)];
  let [a, b] = [1, 0];
  let [re, im, ren, imn] = [0, 0, 0, 0];
  for (let n = 0; n < x.length; n++) {
    const v = x[n] as number;
    re += v * a;
    im += v * b;
    ren += v * n * a;
    imn += v * n * b;
    const next = a * c - b * s;
    b = a * s + b * c;
    a = next;
  }
  return [re, im, ren, imn];
}

/**
 * One round of Gauss and Newton's least squares for a sum of sines that die away: for all of them at once x ≈ Re Σ (a + b·n)·zⁿ is solved, whose second part says how
 * far each logarithm of z is off (b / a). Inner products of such sines are geometric series. `damping` holds the steps back (Levenberg and Marquardt). Null where the
 * equations can't be solved.
 */
export function refineSines(x: Float64Array, sines: readonly DampedSine[], damping = 0): DampedSine[] | null {
  const k = sines.length;
  const size = 4 * k;
  const a = new Float64Array(size * size);
  const b = new Float64Array(size);
  const plus = new Float64Array(6);
  const minus = new Float64Array(6);
  const frames = x.length;
  // So that both parts are of one magnitude.
  const scales = sines.map(({ fall }) => Math.max(fall, 1 / frames));
  const put = (i: number, j: number, value: number): void => {
    a[i * size + j] = value;
    a[j * size + i] = value;
  };
  for (let i = 0; i < k; i++) {
    const p = sines[i] as DampedSine;
    for (let j = 0; j <= i; j++) {
      const q = sines[j] as DampedSine;
      sums(-p.fall - q.fall, p.turn + q.turn, frames, plus);
      sums(-p.fall - q.fall, p.turn - q.turn, frames, minus);
      for (let m = 0; m < 2; m++)
        for (let n = 0; n < 2; n++) {
          const order = 2 * (m + n);
          const scale = (m ? (scales[i] as number) : 1) * (n ? (scales[j] as number) : 1) * 0.5;
          const [pr, pi] = [plus[order] as number, plus[order + 1] as number];
          const [mr, mi] = [minus[order] as number, minus[order + 1] as number];
          const [row, column] = [4 * i + 2 * m, 4 * j + 2 * n];
          // The parts are Re zⁿ and −Im zⁿ.
          put(row, column, scale * (pr + mr));
          put(row, column + 1, -scale * (pi - mi));
          put(row + 1, column, -scale * (pi + mi));
          put(row + 1, column + 1, scale * (mr - pr));
        }
    }
    const [re, im, ren, imn] = correlate(x, p);
    b[4 * i] = re;
    b[4 * i + 1] = -im;
    b[4 * i + 2] = ren * (scales[i] as number);
    b[4 * i + 3] = -imn * (scales[i] as number);
  }
  for (let i = 0; i < size; i++)
    a[i * size + i] = (a[i * size + i] as number) * (1 + RIDGE + (i % 4 > 1 ? damping : 0)) + 1e-30;
  if (!solve(a, b, size)) return null;
  return sines.map(({ turn, fall }, i) => {
    const [re, im] = [b[4 * i] as number, b[4 * i + 1] as number];
    const scale = scales[i] as number;
    const [br, bi] = [(b[4 * i + 2] as number) * scale, (b[4 * i + 3] as number) * scale];
    const power = re * re + im * im;
    if (!(power > 0)) return { turn, fall, re, im };
    const longer = (br * re + bi * im) / power;
    const faster = (bi * re - br * im) / power;
    const most = STRIDE * Math.max(fall, 1 / frames);
    const step = Math.max(-fall * 0.6, Math.min(fall * 1.5 + 1 / frames, -longer));
    return {
      turn: Math.min(Math.PI - 1e-6, Math.max(1e-6, turn + Math.max(-most, Math.min(most, faster)))),
      fall: Math.max(1e-9, fall + step),
      re,
      im,
    };
  });
}

/** Amplitudes of sines whose frequencies and decays are known, by least squares; null where they can't be told apart. */
export function fitAmplitudes(x: Float64Array, sines: readonly DampedSine[]): DampedSine[] | null {
  const size = 2 * sines.length;
  const a = new Float64Array(size * size);
  const b = new Float64Array(size);
  const plus = new Float64Array(6);
  const minus = new Float64Array(6);
  const put = (i: number, j: number, value: number): void => {
    a[i * size + j] = value;
    a[j * size + i] = value;
  };
  sines.forEach((p, i) => {
    for (let j = 0; j <= i; j++) {
      const q = sines[j] as DampedSine;
      sums(-p.fall - q.fall, p.turn + q.turn, x.length, plus);
      sums(-p.fall - q.fall, p.turn - q.turn, x.length, minus);
      const [pr, pi, mr, mi] = [plus[0] as number, plus[1] as number, minus[0] as number, minus[1] as number];
      put(2 * i, 2 * j, 0.5 * (pr + mr));
      put(2 * i, 2 * j + 1, -0.5 * (pi - mi));
      put(2 * i + 1, 2 * j, -0.5 * (pi + mi));
      put(2 * i + 1, 2 * j + 1, 0.5 * (mr - pr));
    }
    const [re, im] = correlate(x, p);
    b[2 * i] = re;
    b[2 * i + 1] = -im;
  });
  for (let i = 0; i < size; i++) a[i * size + i] = (a[i * size + i] as number) * (1 + RIDGE) + 1e-30;
  if (!solve(a, b, size)) return null;
  return sines.map((s, i) => ({ ...s, re: b[2 * i] as number, im: b[2 * i + 1] as number }));
}
