import type { Random } from "../audio";
import { defaultParams, type UnitKind, unitSpec } from "../units";
import { newFace } from "./face-defaults";
import {
  type Curve,
  DOCUMENT_VERSION,
  type Group,
  type Instrument,
  type Layer,
  type Loop,
  type Route,
  type Sample,
  type Search,
  type Send,
  type Slice,
  type Song,
  type Take,
  type Unit,
  type Zone,
} from "./instrument";

const ALPHABET = "abcdefghijkmnpqrstuvwxyz23456789";

/** A short id that is new among `taken`; letters and digits, beginning with a letter. */
export function newId(random: Random, taken: ReadonlySet<string> = new Set()): string {
  for (;;) {
    let id = ALPHABET[Math.floor(random() * 23)] ?? "a";
    for (let i = 0; i < 5; i++) id += ALPHABET[Math.floor(random() * ALPHABET.length)] ?? "a";
    if (!taken.has(id)) return id;
  }
}

/** A unit of a kind with every parameter at its default. */
export const newUnit = (kind: UnitKind, id: string, name: string = unitSpec(kind).label): Unit => ({
  id,
  kind,
  name,
  params: defaultParams(kind),
});

/** The curve of a unit that nobody has drawn yet: a point envelope goes up, half down, away; a drawn LFO up and half down. */
export const usualCurve = (kind: UnitKind): Curve =>
  kind === "path"
    ? [
        { x: 0, y: 0, bend: 0 },
        { x: 0.05, y: 1, bend: 0.5 },
        { x: 0.4, y: 0.4, bend: 0.5 },
        { x: 1, y: 0, bend: 0 },
      ]
    : [
        { x: 0, y: 0, bend: 0 },
        { x: 0.25, y: 1, bend: 0 },
        { x: 0.5, y: -0.5, bend: 0 },
        { x: 1, y: 0, bend: 0 },
      ];

/** The curve of a unit, as it was drawn or as it is until then. */
export const curveOf = (unit: Unit): Curve => unit.curve ?? usualCurve(unit.kind);

/** An empty group with its settings at their defaults. */
export const newGroup = (id: string, name: string): Group => ({
  id,
  name,
  mark: "none",
  note: "",
  settings: newUnit("group", "settings", name),
  zones: [],
});

/** A forward loop without end, from the fields that differ. */
export const newLoop = (given: Partial<Loop> & Pick<Loop, "start" | "end">): Loop => ({
  mode: "forward",
  fade: 0,
  law: "match",
  times: 0,
  until: "end",
  flat: null,
  ...given,
});

/** A route that is on and has neither curve nor scale, from the fields that differ. */
export const newRoute = (given: Partial<Route> & Pick<Route, "id" | "source" | "target" | "amount">): Route => ({
  on: true,
  curve: null,
  scale: null,
  smooth: null,
  ...given,
});

/** Most sends, and how many there always are. */
export const SENDS = 4;

/** The four sends, with nothing in them. */
export const newSends = (): Send[] =>
  Array.from({ length: SENDS }, (_, i) => ({ id: `send${i + 1}`, name: `Send ${i + 1}`, units: [] }));

/** A layer that plays samples through one filter. */
export const newLayer = (id: string, name: string): Layer => ({
  id,
  name,
  mark: "none",
  note: "",
  source: newUnit("samples", "source"),
  set: null,
  groups: [newGroup("main", "Main")],
  stages: [newUnit("filter", "filter")],
  amp: newUnit("amp", "amp"),
  strip: newUnit("strip", "strip"),
  inserts: [],
  sends: newUnit("sends", "sends"),
});

/** An empty instrument: one layer, one LFO routed from the wheel's side of things, one macro, a reverb. */
/** Tempi that a song may have, in quarter notes a minute. */
export const LOWEST_TEMPO = 20;
export const HIGHEST_TEMPO = 300;
/** The tempo and meter of a new instrument. */
export const SONG: Song = { tempo: 96, beats: 4, unit: 4 };

export const newInstrument = (id: string, name: string): Instrument => ({
  version: DOCUMENT_VERSION,
  id,
  about: { name, maker: "", description: "", licence: "" },
  takes: [],
  shots: [],
  naming: NAMING,
  samples: [],
  layers: [newLayer("main", "Main")],
  envelopes: [],
  lfos: [newUnit("lfo", "lfo1", "LFO 1")],
  macros: [newUnit("macro", "macro1", "Macro 1")],
  mics: [],
  sets: [],
  routes: [],
  sends: newSends(),
  effects: [newUnit("reverb", "reverb")],
  face: newFace(),
  rules: { on: false, script: "", seed: 1 },
  play: newUnit("play", "play"),
  song: SONG,
  tuning: null,
  kept: "",
});

/** A zone that plays the whole of a sample, from the fields that differ. */
export function newZone(given: Partial<Zone> & Pick<Zone, "id" | "sample" | "end">): Zone {
  return {
    keyLow: 0,
    keyHigh: 127,
    keyFadeLow: 0,
    keyFadeHigh: 0,
    velLow: 1,
    velHigh: 127,
    velFadeLow: 0,
    velFadeHigh: 0,
    root: 60,
    track: 1,
    tune: 0,
    gain: 0,
    pan: 0,
    start: 0,
    reverse: false,
    oneShot: false,
    loop: null,
    releaseLoop: null,
    variants: [],
    variant: 0,
    repeat: 1,
    mic: null,
    kept: "",
    ...given,
  };
}

/** How samples are named unless their owner says otherwise. */
export const NAMING = "{take}-{note}-{number:2}";

/** How sounds are found at first. */
export const SEARCH: Search = {
  by: "level",
  threshold: 13,
  hysteresis: 8,
  hold: 0.06,
  minGap: 0.04,
  minLength: 0.015,
  preRoll: 0.003,
  tail: 0.01,
  sensitivity: 0.5,
  tempo: 120,
  beats: 1,
  origin: 0,
};

/** A take that has just come in, not yet searched. */
export const newTake = (
  given: Partial<Take> & Pick<Take, "id" | "name" | "sha" | "rate" | "channels" | "frames" | "origin">,
): Take => ({
  date: "",
  source: "",
  notes: "",
  clips: [],
  gaps: [],
  markers: [],
  search: SEARCH,
  floor: null,
  slices: [],
  treatments: [],
  ...given,
});

/** A sample of which nothing is known but its content. */
export const newSample = (given: Partial<Sample> & Pick<Sample, "sha" | "name" | "frames">): Sample => ({
  rate: 44100,
  channels: 1,
  pitch: null,
  confidence: 0,
  peak: -120,
  loudness: -120,
  strength: null,
  repeat: null,
  use: "note",
  from: null,
  file: null,
  beat: null,
  ...given,
});

/** A slice of which nothing is known but where it is. */
export const newSlice = (given: Partial<Slice> & Pick<Slice, "id" | "start" | "end">): Slice => ({
  onset: given.start,
  pitch: null,
  confidence: 0,
  peak: -120,
  loudness: -120,
  tone: null,
  keep: true,
  note: null,
  cents: null,
  edited: false,
  doubt: "",
  strength: null,
  repeat: null,
  treatments: [],
  ...given,
});
