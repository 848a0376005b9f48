import { type Decibels, fftOf, type Hertz, type Seconds } from "../audio";

/** A partial of a sound: its frequency, its level (the loudest being 0), and the time in which it falls by 60 dB; 0: it doesn't. */
export interface FoundPartial {
  readonly hertz: Hertz;
  readonly level: Decibels;
  readonly decay: Seconds;
}

/** What is taken of a sound: at a moment, or over its whole time. */
export interface PartialSearch {
  readonly most: number;
  /** Seconds from its beginning; null: over its time. */
  readonly at: Seconds | null;
  readonly threshold?: Decibels;
}

interface Peak {
  readonly hertz: Hertz;
  readonly level: Decibels;
}

const SIZE = 8192;
const SHORTEST = 512;
/** Between two looks over the whole time. */
const HOP: Seconds = 0.02;
/** Looks at the most: of longer sounds they lie farther apart. */
const MOST_LOOKS = 400;
/** A peak this far below the loudest of its look is a window's side lobe, or noise. */
const DEPTH: Decibels = 80;
/** How far a partial may go from one look to the next, as a share of its frequency, or in bins. */
const ASTRAY = 0.03;
/** Looks in which a partial must be found, and that it may be missing from. */
const FEWEST = 4;
const GAP = 2;
const LOWEST: Hertz = 20;
/** Falls slower than so many decibels a second count as none. */
const HELD = 3;
const SILENT: Decibels = -100;

/** Looks at the spectrum of a stretch by a Blackman–Harris window, whose side lobes lie below −92 dB. */
class Look {
  private readonly re: Float64Array;
  private readonly im: Float64Array;
  private readonly window: Float64Array;
  private readonly scale: number;

  constructor(
    private readonly size: number,
    private readonly rate: Hertz,
  ) {
    this.re = new Float64Array(size);
    this.im = new Float64Array(size);
    this.window = Float64Array.from({ length: size }, (_, i) => {
      const t = (2 * Math.PI * i) / size;
      return 0.35875 - 0.48829 * Math.cos(t) + 0.14128 * Math.cos(2 * t) - 0.01168 * Math.cos(3 * t);
    });
    this.scale = 2 / this.window.reduce((a, b) => a + b, 0);
  }

  /** Peaks of the stretch that begins at a frame, the loudest first (parabolas through the logarithms: Smith and Serra, 1987). */
  peaks(x: Float32Array, from: number, most: number): Peak[] {
    const { size, re, im, window, rate } = this;
    for (let i = 0; i < size; i++) {
      const v = x[from + i] ?? 0;
      re[i] = (Number.isFinite(v) ? v : 0) * (window[i] as number);
    }
    im.fill(0);
    fftOf(size).forward(re, im);
    const db = new Float64Array(size / 2);
    let top = SILENT;
    for (let k = 0; k < size / 2; k++) {
      db[k] = 20 * Math.log10(this.scale * Math.hypot(re[k] as number, im[k] as number) + 1e-12);
      top = Math.max(top, db[k] as number);
    }
    const found: Peak[] = [];
    for (let k = Math.max(2, Math.ceil((LOWEST * size) / rate)); k < size / 2 - 2; k++) {
      const [a, b, c] = [db[k - 1] as number, db[k] as number, db[k + 1] as number];
      if (!(b > a && b >= c) || b < Math.max(SILENT, top - DEPTH)) continue;
      // The window's line is four bins wide: a peak that doesn't fall on both sides is a ripple.
      if (b - Math.max(db[k - 2] as number, db[k + 2] as number) < 6) continue;
      const bend = a - 2 * b + c;
      const off = bend === 0 ? 0 : (0.5 * (a - c)) / bend;
      found.push({ hertz: ((k + off) * rate) / size, level: b - 0.25 * (a - c) * off });
    }
    return found.sort((p, q) => q.level - p.level).slice(0, most);
  }
}

/** A partial that is followed from look to look. */
interface Track {
  hertz: Hertz;
  last: number;
  readonly looks: number[];
  readonly hertzes: number[];
  readonly levels: number[];
}

/** Peaks joined to tracks, each with the nearest that it may have come from, the loudest first (McAulay and Quatieri, 1986). */
function tracksOf(x: Float32Array, rate: Hertz, most: number): { tracks: Track[]; hop: number } {
  const hop = Math.max(Math.round(HOP * rate), Math.ceil(x.length / MOST_LOOKS));
  let size = SIZE;
  while (size > SHORTEST && size > x.length) size /= 2;
  const look = new Look(size, rate);
  const tracks: Track[] = [];
  for (let n = 0, at = 0; at + size / 2 < x.length || n === 0; n++, at += hop) {
    const open = tracks.filter((t) => n - t.last <= GAP);
    for (const peak of look.peaks(x, at, most * 2)) {
      const reach = Math.max(ASTRAY * peak.hertz, rate / size);
      let best: Track | null = null;
      for (const track of open) {
        const away = Math.abs(track.hertz - peak.hertz);
        if (track.last < n && away < reach && away < Math.abs((best?.hertz ?? Number.POSITIVE_INFINITY) - peak.hertz))
          best = track;
      }
      const track = best ?? { hertz: peak.hertz, last: n, looks: [], hertzes: [], levels: [] };
      if (!best) tracks.push(track);
      track.hertz = peak.hertz;
      track.last = n;
      track.looks.push(n);
      track.hertzes.push(peak.hertz);
      track.levels.push(peak.level);
    }
  }
  return { tracks, hop };
}

/** Decibels that a track falls in a second from its loudest on, by least squares. */
function fallOf({ looks, levels }: Track, step: Seconds): number {
  let top = 0;
  levels.forEach((level, i) => {
    if (level > (levels[top] as number)) top = i;
  });
  const n = looks.length - top;
  if (n < FEWEST) return 0;
  let [sx, sy, sxx, sxy] = [0, 0, 0, 0];
  for (let i = top; i < looks.length; i++) {
    const t = (looks[i] as number) * step;
    sx += t;
    sy += levels[i] as number;
    sxx += t * t;
    sxy += t * (levels[i] as number);
  }
  const det = n * sxx - sx * sx;
  return det > 0 ? -(n * sxy - sx * sy) / det : 0;
}

const median = (list: readonly number[]): number => [...list].sort((a, b) => a - b)[list.length >> 1] ?? 0;

/** The partials of a sound at a moment, or over its time with their decays; from low to high, an empty list where there are none. */
export function findPartials(
  x: Float32Array,
  rate: Hertz,
  { most, at, threshold = -60 }: PartialSearch,
): FoundPartial[] {
  let found: FoundPartial[];
  if (at !== null) {
    let size = SIZE;
    while (size > SHORTEST && size > x.length) size /= 2;
    const from = Math.max(0, Math.min(x.length - size, Math.round(at * rate - size / 2)));
    found = new Look(size, rate).peaks(x, from, most).map((p) => ({ ...p, decay: 0 }));
  } else {
    const { tracks, hop } = tracksOf(x, rate, most);
    const step = hop / rate;
    found = tracks
      .filter((t) => t.looks.length >= Math.min(FEWEST, Math.ceil(x.length / hop / 3)))
      .map((track) => {
        const fall = fallOf(track, step);
        return {
          hertz: median(track.hertzes),
          level: track.levels.reduce((a, b) => Math.max(a, b), SILENT),
          decay: fall > HELD ? 60 / fall : 0,
        };
      });
  }
  const loudest = found.reduce((a, p) => Math.max(a, p.level), Number.NEGATIVE_INFINITY);
  const apart: FoundPartial[] = [];
  for (const p of found.sort((a, b) => b.level - a.level)) {
    if (p.level - loudest < threshold || apart.length >= most) break;
    // What comes again where one was is the same partial.
    if (apart.every((q) => Math.abs(q.hertz - p.hertz) > Math.max(2 * (rate / SIZE), 0.004 * p.hertz)))
      apart.push({ ...p, level: p.level - loudest });
  }
  return apart.sort((a, b) => a.hertz - b.hertz);
}
