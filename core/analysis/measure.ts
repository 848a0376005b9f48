import { type Audio, type Hertz, monoOf, noteOf, peakOf } from "../audio";
import type { Progress } from "./levels";
import { loudnessOf } from "./loudness";
import { type PitchFinder, pitchFinderOf } from "./pitch";
import type { FoundSlice } from "./slices";
import { Spectrum } from "./spectrum";
import { type SpectralPeak, spectralPeaks, strikeNotes } from "./strike-note";

/** What a sample says of a sound: its pitch as a MIDI note with fraction, its levels in dBFS and LUFS. */
export interface HeardSlice {
  readonly pitch: number | null;
  readonly confidence: number;
  readonly peak: number;
  readonly loudness: number;
  /** How periodic it is (0 to 1), and how far its pitch wanders, in semitones. */
  readonly clarity: number;
  readonly wander: number;
}

/** A slice with what was measured of it. */
export interface MeasuredSlice extends FoundSlice, HeardSlice {
  /** Brightness: the mean of its spectrum by energy, as a MIDI note with fraction. */
  readonly tone: number;
  /** Share of its energy below 120 Hz. */
  readonly low: number;
  /** How long it stays within 20 dB of its peak, in seconds. */
  readonly body: number;
}

/** Confidence from which a pitch is believed. */
export const SURE = 0.6;

const SIZE = 4096;

/** Measures slices of one take; what it needs for that is made once. */
export class SliceMeter {
  private readonly mono: Float32Array;
  private readonly finder: PitchFinder;
  private spectrum: Spectrum | null = null;

  constructor(private readonly audio: Audio) {
    this.mono = monoOf(audio);
    this.finder = pitchFinderOf(audio.rate);
  }

  measure(slice: FoundSlice): MeasuredSlice {
    const { start, end, onset } = slice;
    return { start, end, onset, ...this.hear(slice), ...this.colour(slice), body: this.body(slice) };
  }

  /** Pitch and levels alone: what finished samples are measured for. */
  hear(slice: FoundSlice): HeardSlice {
    const { audio, mono } = this;
    const heard = this.finder.find(mono, slice.onset, slice.end);
    const bell = heard.confidence < SURE ? this.strikeNote(slice) : null;
    return {
      pitch: bell ? bell.note : heard.note,
      confidence: bell ? bell.confidence : heard.confidence,
      peak: Math.max(-120, peakOf(audio, slice.start, slice.end)),
      loudness: loudnessOf(audio, slice.start, slice.end),
      clarity: heard.clarity,
      wander: heard.wander,
    };
  }

  /** The strike note where the sound is made of a few narrow partials that ring on, as a bell's; null elsewhere. */
  private strikeNote(slice: FoundSlice): { note: number; confidence: number } | null {
    const { rate } = this.audio;
    if (slice.end - slice.onset < 0.25 * rate) return null;
    const early = spectralPeaks(this.mono, rate, slice.onset, slice.end);
    const middle = Math.round((slice.onset + slice.end) / 2 - 0.1 * rate);
    const late = spectralPeaks(this.mono, rate, Math.max(slice.onset, middle), slice.end);
    if (lasting(early, late) < 0.5) return null;
    const [best] = strikeNotes(early);
    return best && best.score > 0.5 ? { note: best.note, confidence: Math.min(0.95, best.score) } : null;
  }

  /** Mean of the spectrum and share of the lowest part, over the first third of a second. */
  private colour({ onset, end }: FoundSlice): { tone: number; low: number } {
    const { rate } = this.audio;
    let weight = 0;
    let moment = 0;
    let low = 0;
    const last = Math.min(end - SIZE / 2, onset + rate * 0.3);
    this.spectrum ??= new Spectrum(SIZE);
    for (let at = onset; at === onset || at < last; at += SIZE / 2) {
      const magnitudes = this.spectrum.measure(this.mono, at);
      for (let k = 2; k < SIZE / 2; k++) {
        const f = (k * rate) / SIZE;
        const power = (magnitudes[k] as number) ** 2;
        weight += power;
        moment += power * f;
        if (f < 120) low += power;
      }
    }
    return weight > 0 ? { tone: noteOf(Math.max(20, moment / weight)), low: low / weight } : { tone: 0, low: 0 };
  }

  private body({ onset, end }: FoundSlice): number {
    const { rate } = this.audio;
    const step = Math.max(1, Math.round(rate * 0.002));
    let most = 0;
    const peaks: number[] = [];
    for (let at = onset; at < end; at += step) {
      let high = 0;
      for (let i = at; i < Math.min(end, at + step); i++) high = Math.max(high, Math.abs(this.mono[i] as number));
      peaks.push(high);
      if (high > most) most = high;
    }
    return (peaks.filter((p) => p > most * 0.1).length * step) / rate;
  }

  /** The strike note with its alternatives, best first, for a sound taken as a bell's. */
  alternatives(slice: FoundSlice): { note: number; score: number }[] {
    return strikeNotes(spectralPeaks(this.mono, this.audio.rate, slice.onset, slice.end));
  }
}

/** How much of the early partials is still there later, by the square roots of their levels. */
function lasting(early: readonly SpectralPeak[], late: readonly SpectralPeak[]): number {
  const all = early.reduce((sum, p) => sum + Math.sqrt(p.level), 0);
  const near = (a: Hertz, b: Hertz) => Math.abs(a / b - 1) < 0.006;
  const kept = early.filter((p) => late.some((q) => near(p.frequency, q.frequency)));
  return all > 0 ? kept.reduce((sum, p) => sum + Math.sqrt(p.level), 0) / all : 0;
}

/** Measures pitch, level and colour of some slices of a take. */
export function measureSlices(audio: Audio, slices: readonly FoundSlice[], progress?: Progress): MeasuredSlice[] {
  const meter = new SliceMeter(audio);
  return slices.map((slice, i) => {
    progress?.(i / slices.length);
    return meter.measure(slice);
  });
}

const middleOf = (values: readonly number[]): number =>
  [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? 0;

/** Whether it may be somebody talking: long, partly periodic, a pitch of a voice that doesn't stay, and not bright. */
const speaks = (s: MeasuredSlice): boolean =>
  s.clarity > 0.4 && s.wander > 0.8 && s.body > 0.12 && s.tone < 90 && s.pitch !== null && s.pitch > 36 && s.pitch < 67;

type Doubt = "bump" | "click" | "speech" | "pitchless" | "short" | "soft";

const WORDS: Readonly<Record<Doubt, string>> = {
  bump: "a bump: hardly anything above 120 Hz",
  click: "a click: over within a few milliseconds",
  speech: "speech: a low voice whose pitch wanders",
  pitchless: "no clear pitch",
  short: "far shorter than the others: a false start",
  soft: "far softer than the others",
};

/** What occurs at least so often is no accident: dull knocks as a share of a take without clear pitches, and of one with them; all else by number. */
const OFTEN = 0.1;
const OFTEN_AMONG_PITCHED = 0.2;
const FEWEST = 3;
/** Below this a pitch may be a bump's as well as a string's: 65 Hz. A bump is over within so many seconds, a low string or drum rings on. */
const LOWEST_NOTE = 36;
const LONGEST_BUMP = 0.3;
/** A peak that is so many decibels below the usual one isn't struck as the others are. */
const FAR_SOFTER = 8;
/** What is over within so many seconds is a dry knock. */
const DRY = 0.06;
/** How far sounds that resemble one another are apart at the most. */
const ALIKE = { tone: 6, drum: 4, low: 0.25, octaves: 1.3 } as const;

/** Whether two sounds are of one kind: in how low they are, and in how long they last; their levels don't count. */
function isAkin(a: MeasuredSlice, b: MeasuredSlice): boolean {
  const octaves = (x: number, y: number) => Math.abs(Math.log2(Math.max(0.002, x) / Math.max(0.002, y)));
  return (
    Math.abs(a.low - b.low) < ALIKE.low &&
    octaves(a.body, b.body) < ALIKE.octaves &&
    octaves(a.end - a.start, b.end - b.start) < ALIKE.octaves
  );
}

/** Whether two sounds are of one kind and alike in colour. */
const resembles = (a: MeasuredSlice, b: MeasuredSlice): boolean =>
  isAkin(a, b) && Math.abs(a.tone - b.tone) < ALIKE.tone;

/** Whether two sounds are of one kind and of one pitch, however the room colours the softer one. */
const isOneNote = (a: MeasuredSlice, b: MeasuredSlice): boolean =>
  isAkin(a, b) && a.confidence >= SURE && b.confidence >= SURE && Math.abs((a.pitch ?? 0) - (b.pitch ?? 99)) < 2;

const isOneDrum = (a: MeasuredSlice, b: MeasuredSlice): boolean =>
  isAkin(a, b) && Math.abs(a.tone - b.tone) < ALIKE.drum;

/**
 * Why each slice may be no sound of the instrument, in words; empty where nothing speaks against it. In a take of pitched
 * sounds those without a clear pitch, or far shorter than most, are bumps and false starts; anywhere a dull knock among bright
 * sounds, a click among longer ones, a voice among steady ones, and what is far softer than all the rest. A doubt is relative to the
 * take: what occurs often, or resembles what is kept, is no accident.
 */
export function doubtsOf(slices: readonly MeasuredSlice[]): string[] {
  if (slices.length < FEWEST) return slices.map(() => "");
  const tonal = slices.filter((s) => s.confidence >= SURE).length > slices.length / 2;
  const usualLength = middleOf(slices.map((s) => s.end - s.start));
  const usualBody = middleOf(slices.map((s) => s.body));
  const usualLow = middleOf(slices.map((s) => s.low));
  const usualPeak = middleOf(slices.map((s) => s.peak));
  const usualLevel = middleOf(slices.map((s) => s.loudness));
  const usualWander = middleOf(slices.map((s) => s.wander));
  const doubts = slices.map((s): Doubt | null => {
    // A low string has a note that a bump hasn't, a dry knock a tone that a click hasn't.
    const rings = s.confidence >= SURE && ((s.pitch ?? 0) > LOWEST_NOTE || s.body > LONGEST_BUMP);
    if (s.low > 0.7 && usualLow < 0.3 && !rings) return "bump";
    if (s.body < 0.012 && usualBody > 0.04 && s.confidence < SURE) return "click";
    if (speaks(s) && usualWander < 0.5) return "speech";
    if (tonal && s.confidence < SURE) return "pitchless";
    if (tonal && s.end - s.start <= usualLength / 5) return "short";
    if (s.loudness < usualLevel - 34) return "soft";
    return null;
  });
  const clear = slices.filter((_, i) => doubts[i] === null);
  const least = Math.max(FEWEST, slices.length * (tonal ? OFTEN_AMONG_PITCHED : OFTEN));
  return slices.map((slice, i) => {
    const doubt = doubts[i];
    if (!doubt) return "";
    if (doubt === "speech") return WORDS[doubt];
    // A bump and a drum are told apart by their colour only.
    const kindred = doubt === "bump" ? isOneDrum : isAkin;
    const kin = slices.filter((s, k) => doubts[k] === doubt && kindred(s, slice)).length;
    // What is struck as hard as the others and recurs is meant; accidents recur, too, but softly.
    const struck =
      (doubt === "pitchless" || doubt === "short") && slice.low < 0.7 && slice.peak > usualPeak - FAR_SOFTER;
    const seldom = struck ? FEWEST : least;
    // Accidents lie scattered; one sound after another of a kind, in whatever strengths, was asked for.
    const follows = (k: number): boolean => {
      const other = slices[k];
      if (!other || doubt === "click") return false;
      if (doubts[k] === doubt) return kindred(other, slice) || isOneNote(other, slice);
      // One dry knock after another has now a pitch and now none, and all are short.
      const bySize = doubts[k] === null || doubts[k] === "short" || doubts[k] === "pitchless";
      return bySize && slice.body < DRY && other.body < DRY && isAkin(other, slice);
    };
    if (kin >= seldom || follows(i - 1) || follows(i + 1)) return "";
    if (doubt !== "bump" && clear.some((s) => resembles(s, slice))) return "";
    return WORDS[doubt];
  });
}
