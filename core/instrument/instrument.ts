import type { ParamValues, TableRow, UnitKind } from "../units";
import type { Face } from "./face-model";

/** Version of the document that this code writes. */
export const DOCUMENT_VERSION = 14;

/** A point of a curve, and how the line from it to the next is bent: 0 straight, above 0 fast at first (−1 to 1). */
export interface CurvePoint {
  readonly x: number;
  readonly y: number;
  readonly bend: number;
}

/** A line through points, by rising x. What x and y are is said by whoever has the curve. */
export type Curve = readonly CurvePoint[];

/** A unit of some kind with the values of its parameters. */
export interface Unit {
  readonly id: string;
  readonly kind: UnitKind;
  readonly name: string;
  readonly params: ParamValues;
  /** Of a drawn LFO: one cycle (x 0–1, y ±1). Of a point envelope: its points (x seconds from its beginning, y 0–1). */
  readonly curve?: Curve;
  /** The SHA-256 of a sound that it uses: of a convolution its impulse. */
  readonly sample?: string;
  /** The id of the layer whose sound it takes in, note by note. */
  readonly from?: string;
  /** Rows of numbers, such as partials; where there are none its kind's own stand. */
  readonly table?: readonly TableRow[];
}

/** One sound of a take: `[start, end)` in frames of the take, what was measured, and what its owner said. */
export interface Slice {
  readonly id: string;
  readonly start: number;
  readonly end: number;
  /** Where the attack was found, in frames. */
  readonly onset: number;
  /** Measured pitch as a MIDI note with fraction; null where none was found. */
  readonly pitch: number | null;
  /** How sure the pitch is, 0 to 1. */
  readonly confidence: number;
  /** Peak and loudness in dBFS. */
  readonly peak: number;
  readonly loudness: number;
  /** Brightness: the mean of its spectrum as a MIDI note with fraction; null until measured. */
  readonly tone: number | null;
  readonly keep: boolean;
  /** The root note its owner typed in; null takes the measured one. */
  readonly note: number | null;
  /** How far off that note its owner says it is, in cents; null takes what was measured. */
  readonly cents: number | null;
  /** Whether its owner moved an edge or made it by hand: such a slice outlives a new search. */
  readonly edited: boolean;
  /** Why it was proposed for leaving out; empty where it wasn't. */
  readonly doubt: string;
  /** How hard it was struck, 1 the softest; and which repeat of its note and strength it is, from 1. null: not sorted yet. */
  readonly strength: number | null;
  readonly repeat: number | null;
  /** What is done to its sound, in this order, after what is done to the whole take. */
  readonly treatments: readonly Unit[];
}

/** How the sounds of a take are found; levels in decibels, times in seconds. */
export interface Search {
  readonly by: "level" | "attack" | "grid" | "markers";
  /** Above the noise floor: where a sound begins. */
  readonly threshold: number;
  /** How far below the threshold it must fall to have ended; the rest of the way to the floor is its tail. */
  readonly hysteresis: number;
  /** How long it must stay quiet to have ended. */
  readonly hold: number;
  readonly minGap: number;
  readonly minLength: number;
  readonly preRoll: number;
  /** What is kept after a sound has ended. */
  readonly tail: number;
  /** Of attacks: 0 finds only the clearest, 1 nearly all. */
  readonly sensitivity: number;
  /** Of the grid: beats a minute, beats in a part, and where the first begins. */
  readonly tempo: number;
  readonly beats: number;
  readonly origin: number;
}

/** One entry of a shot list: a sound that is wanted. */
export interface Shot {
  readonly id: string;
  /** What to strike, for people. */
  readonly name: string;
  /** The MIDI note; null for a sound of a kit. */
  readonly note: number | null;
  /** How hard, from 1 for the softest, of how many. */
  readonly strength: number;
  readonly strengths: number;
  readonly repeat: number;
  readonly state: "open" | "done" | "skipped";
}

/** A place in a take that its file or its owner named, in frames; `length` 0 for a point. */
export interface Marker {
  readonly at: number;
  readonly length: number;
  readonly name: string;
}

/** A long recording. Its audio is stored by content; the cuts are here. */
export interface Take {
  readonly id: string;
  readonly name: string;
  readonly sha: string;
  readonly rate: number;
  readonly channels: number;
  readonly frames: number;
  readonly origin: "imported" | "recorded" | "demo";
  /** When it was recorded or opened (ISO 8601; empty: unknown), what it came from, and what its owner noted. */
  readonly date: string;
  readonly source: string;
  readonly notes: string;
  /** Frames at which the input was at full scale, one for each run. */
  readonly clips: readonly number[];
  /** Frames at which sound was lost because the computer was late, one for each gap. */
  readonly gaps: readonly number[];
  readonly markers: readonly Marker[];
  readonly search: Search;
  /** Measured noise floor in dBFS; null until the take was searched. */
  readonly floor: number | null;
  readonly slices: readonly Slice[];
  /** What is done to the sound of every slice. */
  readonly treatments: readonly Unit[];
}

/** A sample by content: `sha` is the SHA-256 of its WAV file, in hexadecimal. */
export interface Sample {
  readonly sha: string;
  readonly name: string;
  readonly frames: number;
  readonly rate: number;
  readonly channels: number;
  readonly pitch: number | null;
  readonly confidence: number;
  readonly peak: number;
  readonly loudness: number;
  /** As sorted when it was cut: how hard it was struck, and which repeat it is; null where nobody said. */
  readonly strength: number | null;
  readonly repeat: number | null;
  /** What it is for: to be played, or as the impulse of a room. */
  readonly use: "note" | "impulse";
  /** Which slice of which take it is; null when it came as a file. */
  readonly from: { readonly take: string; readonly slice: string; readonly cut: SampleCut | null } | null;
  /** What its file said of it; null where it was made here. */
  readonly file: SampleFile | null;
  /** The beat in it; null where it has none, or nobody looked. */
  readonly beat: Beat | null;
}

/** How a sample was cut: the frames `[start, end)` of its take, how many times as long it was made, and whether it was reversed. */
export interface SampleCut {
  readonly start: number;
  readonly end: number;
  readonly ratio: number;
  readonly reversed: boolean;
}

/** A sample's beat: beats a minute, the frame of a bar's first beat, and how many beats a bar has. */
export interface Beat {
  readonly tempo: number;
  readonly downbeat: number;
  readonly bar: number;
}

/** What the file of a sample says: where it lay (folders are parted by `/`), its root as a MIDI note with fraction, its loop in frames `[start, end)`, for which keys and velocities it is meant, and what is written about it. */
export interface SampleFile {
  readonly path: string;
  readonly root: number | null;
  readonly loop: SampleLoop | null;
  /** Loops after the first, to choose from. */
  readonly further: readonly SampleLoop[];
  readonly range: SampleRange | null;
  readonly text: string;
}

/** A loop as a file gives it, in frames `[start, end)`. */
export interface SampleLoop {
  readonly start: number;
  readonly end: number;
  readonly mode: LoopMode;
}

/** Keys and velocities, both ends included. */
export interface SampleRange {
  readonly keyLow: number;
  readonly keyHigh: number;
  readonly velLow: number;
  readonly velHigh: number;
}

export type LoopMode = "forward" | "backward" | "alternating";

/** How loud a decaying sound is from place to place, by which a loop in it is kept even. */
export interface Flattening {
  /** How much of it is evened out: 0 nothing, 1 all; what is left falls and rises as the sound does. */
  readonly amount: number;
  /** Levels in decibels at frame `from` and every `step` frames after it. */
  readonly from: number;
  readonly step: number;
  readonly levels: readonly number[];
}

/** A part of a sample, `[start, end)` in frames, that is played again and again. */
export interface Loop {
  readonly start: number;
  readonly end: number;
  readonly mode: LoopMode;
  /** Length of the crossfade in frames. */
  readonly fade: number;
  /** How the crossfade keeps the level: as its two sides are alike, as if they were equal, or as if they had nothing in common. */
  readonly law: "match" | "gain" | "power";
  /** How often the part is played in all; 0 has no end. */
  readonly times: number;
  /** Whether letting the key go leaves the loop, so that the sound goes on to its end. */
  readonly until: "release" | "end";
  /** What keeps it even; null: it is as loud as the sound is. */
  readonly flat: Flattening | null;
}

/** Most sustain loops that a zone may have to choose from. */
export const MOST_VARIANTS = 8;

/** Which keys and velocities a sample answers, and how it sounds. Ranges include both ends. */
export interface Zone {
  readonly id: string;
  /** The sample that it plays; null where its layer's sound is computed. */
  readonly sample: string | null;
  readonly keyLow: number;
  readonly keyHigh: number;
  /** Keys over which it fades in from its lowest, and out to its highest key, by equal power; 0 for none. */
  readonly keyFadeLow: number;
  readonly keyFadeHigh: number;
  readonly velLow: number;
  readonly velHigh: number;
  readonly velFadeLow: number;
  readonly velFadeHigh: number;
  readonly root: number;
  /** How far the pitch follows the keys: 1 fully, 0 not at all. */
  readonly track: number;
  /** Correction of the tuning in cents. */
  readonly tune: number;
  /** Decibels. */
  readonly gain: number;
  readonly pan: number;
  /** First frame that sounds, and one past the last. */
  readonly start: number;
  readonly end: number;
  /** Played from its end to its start; loops then go the other way too. */
  readonly reverse: boolean;
  /** Plays on after the key is let go. */
  readonly oneShot: boolean;
  readonly loop: Loop | null;
  /** A loop for after the key was let go. */
  readonly releaseLoop: Loop | null;
  /** Other sustain loops to choose from, up to `MOST_VARIANTS`; that at `variant` is the one in use, as it was when it was chosen. */
  readonly variants: readonly Loop[];
  readonly variant: number;
  /** Number among the round robins, from 1. */
  readonly repeat: number;
  /** The microphone (an id of the instrument's mics) that recorded it; null for none. */
  readonly mic: string | null;
  /** What a file in an open format said of it that has no counterpart here, one setting to a line: written again when it is exported. */
  readonly kept: string;
}

/** A colour by which its maker tells a group or a layer from others; it means nothing else. */
export const MARKS = ["none", "brick", "sand", "moss", "teal", "slate", "lilac", "rose", "umber"] as const;
export type Mark = (typeof MARKS)[number];

export interface Group {
  readonly id: string;
  readonly name: string;
  readonly mark: Mark;
  /** What its maker notes about it. */
  readonly note: string;
  readonly settings: Unit;
  readonly zones: readonly Zone[];
}

/** A lane in a voice: source → stages → amp → strip → mix. */
export interface Layer {
  readonly id: string;
  readonly name: string;
  readonly mark: Mark;
  readonly note: string;
  readonly source: Unit;
  /** The set (an id of the instrument's sets) of which one layer sounds; null: it always sounds. */
  readonly set: string | null;
  readonly groups: readonly Group[];
  readonly stages: readonly Unit[];
  readonly amp: Unit;
  readonly strip: Unit;
  /** What the sum of its voices goes through, in this order, and how much of it then goes to the sends. */
  readonly inserts: readonly Unit[];
  readonly sends: Unit;
}

/** A bus to which every layer gives as much as it wants; what comes out joins the whole before its chain. */
export interface Send {
  readonly id: string;
  readonly name: string;
  readonly units: readonly Unit[];
}

/**
 * Modulation: `source` is a name of SOURCES, `controllers/<number>`, `envelopes/<id>`, `lfos/<id>` or `macros/<id>`; `target` is a
 * parameter's address; `amount` is in the target's modulation unit.
 */
export interface Route {
  readonly id: string;
  readonly source: string;
  readonly target: string;
  readonly amount: number;
  readonly on: boolean;
  /** What the source's value (0–1; below 0 mirrored) becomes; null leaves it as it is. */
  readonly curve: Curve | null;
  /** Another source by which it is multiplied; null for none. */
  readonly scale: string | null;
  /** Time constant of its smoothing in seconds; null: 5 ms for controllers, wheels and pressure, none for the others. */
  readonly smooth: number | null;
}

/** A tuning other than equal temperament: for each of 128 keys its pitch as a note with fraction (A4 is 69), or null where it is silent. */
export interface Tuning {
  readonly name: string;
  readonly keys: readonly (number | null)[];
}

/** The whole instrument: immutable plain JSON. */
/** Tempo in beats (quarter notes) a minute; a bar has so many beats, each a whole note's `unit`-th. */
export interface Song {
  readonly tempo: number;
  readonly beats: number;
  readonly unit: number;
}

export interface Instrument {
  readonly version: number;
  readonly id: string;
  readonly about: {
    readonly name: string;
    readonly maker: string;
    readonly description: string;
    readonly licence: string;
  };
  readonly takes: readonly Take[];
  /** The sounds that are wanted, in the order in which they are recorded. */
  readonly shots: readonly Shot[];
  /** The pattern by which samples are named when they are cut. */
  readonly naming: string;
  readonly samples: readonly Sample[];
  readonly layers: readonly Layer[];
  /** Envelopes for routes: kinds `envelope` and `path`. */
  readonly envelopes: readonly Unit[];
  readonly lfos: readonly Unit[];
  readonly macros: readonly Unit[];
  readonly mics: readonly Unit[];
  readonly sets: readonly Unit[];
  readonly routes: readonly Route[];
  /** Four. */
  readonly sends: readonly Send[];
  /** The whole's chain, in this order. */
  readonly effects: readonly Unit[];
  readonly face: Face;
  readonly rules: { readonly on: boolean; readonly script: string; readonly seed: number };
  readonly play: Unit;
  /** The tempo and meter for which it is made: whatever follows the beat keeps to them, here and wherever it is played. */
  readonly song: Song;
  /** null: equal temperament. */
  readonly tuning: Tuning | null;
  /** What a file in an open format said of the whole that has no counterpart here, as text. */
  readonly kept: string;
}
