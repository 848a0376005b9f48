import type { UnitKind } from "../params";

/** Version of the document that this code writes. */
export const DOCUMENT_VERSION = 1;

/** A unit of some kind with the values of its parameters. */
export interface Unit {
  readonly id: string;
  readonly kind: UnitKind;
  readonly name: string;
  readonly params: Readonly<Record<string, number | string>>;
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
  readonly keep: boolean;
  /** The root note its owner typed in; null takes the measured one. */
  readonly note: number | null;
  /** How far off that note its owner says it is, in cents; null takes what was measured. */
  readonly cents: number | null;
  /** Whether its owner moved an edge: such a slice outlives a new search. */
  readonly edited: boolean;
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
  /** Threshold above the take's noise floor in decibels. */
  readonly threshold: number;
  /** Measured noise floor in dBFS; null until the take was searched. */
  readonly floor: number | null;
  readonly slices: readonly Slice[];
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
  /** Which slice of which take it is; null when it came as a file. */
  readonly from: { readonly take: string; readonly slice: string } | null;
}

/** A forward sustain loop `[start, end)` with the length of its crossfade, in frames of the sample. */
export interface Loop {
  readonly start: number;
  readonly end: number;
  readonly fade: number;
}

/** Which keys and velocities a sample answers, and how it sounds. Ranges include both ends. */
export interface Zone {
  readonly id: string;
  readonly sample: string;
  readonly keyLow: number;
  readonly keyHigh: number;
  readonly velLow: number;
  readonly velHigh: number;
  readonly root: number;
  /** Correction of the tuning in cents. */
  readonly tune: number;
  /** Decibels. */
  readonly gain: number;
  readonly pan: number;
  /** First frame that sounds, and one past the last. */
  readonly start: number;
  readonly end: number;
  readonly loop: Loop | null;
  /** Number among the round robins, from 1. */
  readonly repeat: number;
}

export interface Group {
  readonly id: string;
  readonly name: string;
  readonly zones: readonly Zone[];
}

/** A lane in a voice: source → stages → amp → strip → mix. */
export interface Layer {
  readonly id: string;
  readonly name: string;
  readonly source: Unit;
  readonly groups: readonly Group[];
  readonly stages: readonly Unit[];
  readonly amp: Unit;
  readonly strip: Unit;
}

/** Modulation: `source` is a name of SOURCES or `lfos/<id>` or `macros/<id>`; `target` is a parameter's address; `amount` is in the target's modulation unit. */
export interface Route {
  readonly id: string;
  readonly source: string;
  readonly target: string;
  readonly amount: number;
  readonly on: boolean;
}

/** Something on a face page; x, y, width and height in page pixels. */
export interface FaceItem {
  readonly id: string;
  readonly kind: "dial" | "label";
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly text: string;
  /** The address of the parameter that a dial moves; null while unbound, and for labels. */
  readonly bind: string | null;
}

export interface Face {
  readonly width: number;
  readonly height: number;
  readonly items: readonly FaceItem[];
}

/** The whole instrument: immutable plain JSON. */
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
  readonly samples: readonly Sample[];
  readonly layers: readonly Layer[];
  readonly lfos: readonly Unit[];
  readonly macros: readonly Unit[];
  readonly routes: readonly Route[];
  readonly effects: readonly Unit[];
  readonly face: Face;
  readonly rules: { readonly on: boolean; readonly script: string; readonly seed: number };
  readonly play: Unit;
}
