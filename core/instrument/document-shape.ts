import { kindsAt, type TableSpec } from "../units";
import { HIGHEST_TEMPO, LOWEST_TEMPO, newGroup, newLayer, newSends, SEARCH, SENDS, SONG } from "./defaults";
import { newPages } from "./face-defaults";
import { ANCHORS, FACE_KINDS, FACE_THEMES, GROUNDS, LAYER_WAYS, TONES } from "./face-model";
import { type CurvePoint, DOCUMENT_VERSION, MARKS, MOST_VARIANTS, type Zone } from "./instrument";
import { choice, flag, frames, id, like, list, maybe, named, number, object, sha, text, unit, whole } from "./shape";

/** Most units in a layer's inserts or in a send. */
const MOST_IN_CHAIN = 16;

/** Longest text of settings without a counterpart that a zone keeps; the whole keeps fifty times as much. */
export const MOST_KEPT = 4000;

/** Most levels of a loop that is kept even. */
export const MOST_FLAT = 256;

/** Most zones that an instrument may have, all layers together. */
export const MOST_ZONES = 20000;

const isRising = (points: readonly CurvePoint[]) => points.every((p, i) => i === 0 || (points[i - 1]?.x ?? 0) <= p.x);

/** The line of an LFO, an envelope or a route. */
export const curveShape = list(
  "points",
  object({ x: number(-1e6, 1e6), y: number(-1, 1), bend: number(-1, 1, 0) }),
  256,
  {
    least: 1,
    rule: (points: readonly CurvePoint[]) =>
      isRising(points)
        ? null
        : { problem: "must go from left to right", settled: [...points].sort((a, b) => a.x - b.x) },
  },
);

const treatments = () =>
  named("treatments", unit("gain", "offset", "denoise", "fadeIn", "fadeOut", "reverse", "stretch"), 32);
const level = () => maybe(number());
const strength = () => maybe(whole(1, 127));
const repeat = () => maybe(whole(1, 1000));
const rate = () => number(1000, 768000);

const search = object({
  by: choice("level", "attack", "grid", "markers"),
  threshold: number(0, 96, SEARCH.threshold),
  hysteresis: number(0, 96, SEARCH.hysteresis),
  hold: number(0, 60, SEARCH.hold),
  minGap: number(0, 60, SEARCH.minGap),
  minLength: number(0, 60, SEARCH.minLength),
  preRoll: number(0, 60, SEARCH.preRoll),
  tail: number(0, 60, SEARCH.tail),
  sensitivity: number(0, 1, SEARCH.sensitivity),
  tempo: number(10, 1000, SEARCH.tempo),
  beats: number(1 / 64, 1024, SEARCH.beats),
  origin: number(0, 1e6, SEARCH.origin),
});

const slice = object({
  id,
  start: frames(),
  end: frames(),
  onset: frames(0),
  pitch: level(),
  confidence: number(0, 1, 0),
  peak: number(-1e12, 1e12, -120),
  loudness: number(-1e12, 1e12, -120),
  tone: level(),
  keep: flag,
  note: level(),
  cents: level(),
  edited: flag,
  doubt: text(),
  strength: strength(),
  repeat: repeat(),
  treatments: treatments(),
});

const take = object({
  id,
  name: text(),
  sha,
  rate: rate(),
  channels: whole(1, 2),
  frames: frames(),
  origin: choice("imported", "recorded", "demo"),
  date: text(40),
  source: text(500),
  notes: text(20000),
  clips: list("clipped places", frames(), 1000),
  gaps: list("gaps", frames(), 1000),
  markers: list("markers", object({ at: frames(), length: frames(0), name: text() }), 20000),
  search,
  floor: level(),
  slices: named("slices", slice, 20000),
  treatments: treatments(),
});

const shot = object({
  id,
  name: text(),
  note: maybe(whole(0, 127)),
  strength: whole(1, 127, 1),
  strengths: whole(1, 127, 1),
  repeat: whole(1, 1000, 1),
  state: choice("open", "done", "skipped"),
});

const key = (otherwise: number) => whole(0, 127, otherwise);
const loopMode = () => choice("forward", "backward", "alternating");

const fileLoop = () => object({ start: frames(), end: frames(), mode: loopMode() });

const sample = object({
  sha,
  name: text(),
  frames: frames(),
  rate: rate(),
  channels: whole(1, 2),
  pitch: level(),
  confidence: number(0, 1, 0),
  peak: number(-1e12, 1e12, -120),
  loudness: number(-1e12, 1e12, -120),
  strength: strength(),
  repeat: repeat(),
  use: choice("note", "impulse"),
  from: maybe(
    object({
      take: id,
      slice: id,
      cut: maybe(object({ start: frames(), end: frames(), ratio: number(1 / 64, 64, 1), reversed: flag })),
    }),
  ),
  file: maybe(
    object({
      path: text(1000),
      root: level(),
      loop: maybe(fileLoop()),
      further: list("loops of a file", fileLoop(), MOST_VARIANTS),
      range: maybe(
        object({ keyLow: key(0), keyHigh: key(127), velLow: whole(1, 127, 1), velHigh: whole(1, 127, 127) }),
      ),
      text: text(2000),
    }),
  ),
  beat: maybe(object({ tempo: number(10, 1000), downbeat: frames(0), bar: whole(1, 64, 4) })),
});

const loopShape = () =>
  object({
    start: frames(),
    end: frames(),
    mode: loopMode(),
    fade: frames(0),
    law: choice("match", "gain", "power"),
    times: whole(0, 1000, 0, "how often it is played in all; 0 has no end"),
    until: choice("end", "release"),
    flat: maybe(
      object({
        amount: number(0, 1, 1, "how much of the curve is evened out"),
        from: whole(-(2 ** 31), 2 ** 31 - 1, 0),
        step: whole(1, 2 ** 31 - 1, 1024),
        levels: list("levels", number(-140, 60, 0), MOST_FLAT, { least: 1 }),
      }),
    ),
  });
const loop = () => maybe(loopShape());

/** The rows of a unit's table. */
export const tableShape = ({ row, most, columns }: TableSpec) =>
  list(`${row}s`, object(Object.fromEntries(columns.map((c) => [c.id, number(c.min, c.max, c.default)]))), most);

const zone = object(
  {
    id,
    sample: maybe(sha),
    keyLow: key(0),
    keyHigh: key(127),
    keyFadeLow: key(0),
    keyFadeHigh: key(0),
    velLow: whole(1, 127, 1),
    velHigh: whole(1, 127, 127),
    velFadeLow: key(0),
    velFadeHigh: key(0),
    root: key(60),
    track: number(-2, 2, 1, "how far the pitch follows the keys: 1 fully"),
    tune: number(-1200, 1200, 0, "cents"),
    gain: number(-96, 48, 0, "decibels"),
    pan: number(-1, 1, 0),
    start: frames(0),
    end: frames(),
    reverse: flag,
    oneShot: flag,
    loop: loop(),
    releaseLoop: loop(),
    variants: list("variants of the loop", loopShape(), MOST_VARIANTS),
    variant: whole(0, MOST_VARIANTS - 1, 0),
    repeat: whole(1, 1000, 1),
    mic: maybe(id),
    kept: text(MOST_KEPT, "settings of an open format without a counterpart here, one to a line"),
  },
  (z: Zone) =>
    z.keyHigh >= z.keyLow && z.velHigh >= z.velLow
      ? null
      : {
          problem: "its range ends before it begins",
          settled: { ...z, keyHigh: Math.max(z.keyLow, z.keyHigh), velHigh: Math.max(z.velLow, z.velHigh) },
        },
);

/** Lowest and highest value of a zone's field, and whether it is a whole number; of one that is no number 0 and 0. */
export function zoneLimits(field: keyof Zone): { readonly min: number; readonly max: number; readonly whole: boolean } {
  const shape = zone.fields[field];
  return shape?.type === "number" ? shape : { min: 0, max: 0, whole: false };
}

const mark = () => choice(...MARKS);

const layer = object({
  id,
  name: text(),
  mark: mark(),
  note: text(2000),
  source: unit(...kindsAt("source")),
  set: maybe(id),
  groups: named(
    "groups",
    object({
      id,
      name: text(),
      mark: mark(),
      note: text(2000),
      settings: unit("group"),
      zones: named("zones", zone, MOST_ZONES),
    }),
    1000,
    () => [newGroup("main", "Main")],
  ),
  stages: named("stages", unit(...kindsAt("stage")), 8),
  amp: unit("amp"),
  strip: unit("strip"),
  inserts: named("inserts", unit(...kindsAt("insert")), MOST_IN_CHAIN),
  sends: unit("sends"),
});

const route = object({
  id,
  source: text(),
  target: text(),
  amount: number(-1e5, 1e5, 0),
  on: flag,
  curve: maybe(curveShape),
  scale: maybe(text()),
  smooth: maybe(number(0, 10)),
});

/** Most parameters that one item moves. */
export const MOST_MOVES = 257;
/** Longest data URL of a picture or a font: 8 MB of bytes. */
export const MOST_PICTURE_DATA = 11.2e6;

const colour = like(/^#[0-9a-f]{6}$/i, 7);
/** A picture or a font in the document itself: nothing else, and nothing that is fetched from elsewhere. */
const PICTURE_DATA = /^data:image\/(png|jpeg|webp|svg\+xml);base64,[A-Za-z0-9+/]+={0,2}$/;
const FONT_DATA = /^data:font\/(woff2?|ttf|otf);base64,[A-Za-z0-9+/]+={0,2}$/;

const test = {
  address: text(),
  is: choice("above", "below", "between"),
  share: number(0, 1, 0.5),
  upTo: number(0, 1, 1),
};
const condition = object({
  ...test,
  does: choice("enables", "shows", "colours", "pictures"),
  tone: choice(...TONES),
  picture: maybe(id),
});
const place = object({
  x: number(-1e6, 1e6, 0),
  y: number(-1e6, 1e6, 0),
  width: number(1, 4000, 64),
  height: number(1, 4000, 64),
  hidden: flag,
});
const pageSize = object({ width: whole(100, 4000, 640), height: whole(100, 4000, 360) });

const item = object({
  id,
  kind: choice(...FACE_KINDS),
  name: text(),
  page: maybe(id),
  x: number(-1e6, 1e6, 0),
  y: number(-1e6, 1e6, 0),
  width: number(1, 4000, 64),
  height: number(1, 4000, 64),
  turn: number(-360, 360, 0),
  text: text(2000),
  moves: list(
    "parameters that are moved",
    object({
      address: text(),
      from: number(0, 1, 0),
      to: number(0, 1, 1),
      bend: number(-1, 1, 0),
      fixed: flag,
    }),
    MOST_MOVES,
  ),
  form: text(40),
  tone: choice(...TONES),
  amount: number(0, 1, 0.3),
  pictures: list(
    "pictures of an item",
    object({ picture: id, does: choice(...LAYER_WAYS), frames: whole(1, 512, 1), rate: number(0.1, 60, 12) }),
    16,
  ),
  wave: maybe(object({ sample: sha, outline: list("places of a wave", number(0, 1, 0), 1024) })),
  look: object({
    ink: maybe(colour),
    spot: maybe(colour),
    fill: maybe(colour),
    letters: maybe(number(4, 400)),
    dial: maybe(text(20)),
    font: maybe(id),
  }),
  group: maybe(id),
  locked: flag,
  hidden: flag,
  when: list("conditions", condition, 16),
  anchorX: choice(...ANCHORS),
  anchorY: choice(...ANCHORS),
  tablet: maybe(place),
  phone: maybe(place),
});

const face = object({
  width: whole(100, 4000, 640),
  height: whole(100, 4000, 360),
  theme: choice(...FACE_THEMES),
  ground: object({
    kind: choice(...GROUNDS),
    colour: like(/^#[0-9a-f]{6}$/i, 7, "#ffffff"),
    second: like(/^#[0-9a-f]{6}$/i, 7, "#cccccc"),
    angle: number(-360, 360, 90),
    picture: maybe(id),
    outline: list("places of an outline", number(0, 1, 0), 1024),
  }),
  pages: named(
    "pages of the face",
    object({
      id,
      name: text(),
      width: maybe(whole(10, 4000)),
      height: maybe(whole(10, 4000)),
      over: flag,
      when: maybe(object(test)),
    }),
    64,
    newPages,
  ),
  items: named("items on the face", item, 5000),
  pictures: named(
    "pictures of the face",
    object({
      id,
      name: text(),
      width: whole(1, 20000, 64),
      height: whole(1, 20000, 64),
      data: like(PICTURE_DATA, MOST_PICTURE_DATA),
    }),
    128,
  ),
  fonts: named(
    "fonts of the face",
    object({ id, name: text(), licence: text(2000), data: like(FONT_DATA, MOST_PICTURE_DATA) }),
    16,
  ),
  guides: list("guides", object({ way: choice("x", "y"), at: number(0, 4000, 0) }), 100),
  tablet: maybe(pageSize),
  phone: maybe(pageSize),
});

/** The whole document: every field with its limits. */
export const documentShape = object({
  version: whole(1, DOCUMENT_VERSION, DOCUMENT_VERSION),
  id,
  about: object({ name: text(), maker: text(), description: text(20000), licence: text(2000) }),
  takes: named("takes", take, 1000),
  shots: named("entries of the shot list", shot, 20000),
  naming: text(200, "the pattern by which samples are named"),
  samples: list("samples", sample, 20000, { key: "sha" }),
  layers: named("layers", layer, 64, () => [newLayer("main", "Main")]),
  envelopes: named("envelopes", unit("envelope", "path"), 64),
  lfos: named("LFOs", unit("lfo"), 64),
  macros: named("macros", unit("macro"), 256),
  mics: named("microphones", unit("mic"), 32),
  sets: named("sets", unit("set"), 32),
  routes: named("routes", route, 1000),
  sends: named(
    "sends",
    object({ id, name: text(), units: named("units of a send", unit(...kindsAt("send")), MOST_IN_CHAIN) }),
    SENDS,
    newSends,
  ),
  effects: named("effects", unit(...kindsAt("main")), 32),
  face,
  rules: object({ on: flag, script: text(200000), seed: whole(0, 2 ** 32 - 1, 1) }),
  play: unit("play"),
  song: object({
    tempo: number(LOWEST_TEMPO, HIGHEST_TEMPO, SONG.tempo, "quarter notes a minute"),
    beats: whole(1, 32, SONG.beats, "beats of a bar"),
    unit: whole(1, 32, SONG.unit, "the part of a whole note that a beat is"),
  }),
  kept: text(50 * MOST_KEPT),
  tuning: maybe(object({ name: text(), keys: list("keys", maybe(number(-200, 400)), 128, { least: 128 }) })),
});
