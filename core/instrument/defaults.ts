import type { Random } from "../audio";
import { defaultParams, type UnitKind, unitSpec } from "../params";
import { DOCUMENT_VERSION, type Instrument, type Layer, type Unit, type Zone } from "./instrument";

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

/** A layer that plays samples through one filter. */
export const newLayer = (id: string, name: string): Layer => ({
  id,
  name,
  source: newUnit("samples", "source"),
  groups: [{ id: "main", name: "Main", zones: [] }],
  stages: [newUnit("filter", "filter")],
  amp: newUnit("amp", "amp"),
  strip: newUnit("strip", "strip"),
});

/** An empty instrument: one layer, one LFO routed from the wheel's side of things, one macro, a reverb. */
export const newInstrument = (id: string, name: string): Instrument => ({
  version: DOCUMENT_VERSION,
  id,
  about: { name, maker: "", description: "", licence: "" },
  takes: [],
  samples: [],
  layers: [newLayer("main", "Main")],
  lfos: [newUnit("lfo", "lfo1", "LFO 1")],
  macros: [newUnit("macro", "macro1", "Macro 1")],
  routes: [],
  effects: [newUnit("reverb", "reverb")],
  face: { width: 640, height: 360, items: [] },
  rules: { on: false, script: "", seed: 1 },
  play: newUnit("play", "play"),
});

/** A zone that plays the whole of a sample, from the fields that differ. */
export function newZone(given: Partial<Zone> & Pick<Zone, "id" | "sample" | "end">): Zone {
  return {
    keyLow: 0,
    keyHigh: 127,
    velLow: 1,
    velHigh: 127,
    root: 60,
    tune: 0,
    gain: 0,
    pan: 0,
    start: 0,
    loop: null,
    repeat: 1,
    ...given,
  };
}
