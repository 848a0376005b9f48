import * as yup from "yup";
import { isUnitKind, type UnitKind, unitSpec } from "../params";
import { DOCUMENT_VERSION, type Instrument, type Unit } from "./instrument";

const id = () =>
  yup
    .string()
    .matches(/^[\w.-]{1,64}$/, ({ path }) => `${path} must be a short id of letters and digits`)
    .required();
const text = (most = 200) => yup.string().max(most).defined();
const whole = (min: number, max: number) => yup.number().integer().min(min).max(max).required();
const number = (min = -1e12, max = 1e12) => yup.number().min(min).max(max).required();
const sha = () =>
  yup
    .string()
    .matches(/^[0-9a-f]{64}$/, ({ path }) => `${path} must be a SHA-256 in hexadecimal`)
    .required();
const frames = () => whole(0, 2 ** 31 - 1);
const list = <T extends yup.ISchema<unknown>>(item: T, most = 20000) =>
  yup
    .array(item as never)
    .max(most)
    .required();

const curve = () =>
  yup
    .array(yup.object({ x: number(-1e6, 1e6), y: number(-1, 1), bend: number(-1, 1) }))
    .min(1)
    .max(256)
    .test(
      "rising",
      ({ path }) => `${path} must go from left to right`,
      (points) => !points || points.every((p, i) => i === 0 || (points[i - 1]?.x ?? 0) <= p.x),
    );

/** A unit of one of some kinds; unknown parameters are refused, missing ones take their defaults. */
function unit(...kinds: readonly UnitKind[]) {
  return yup.lazy((value: unknown) => {
    const kind = (value as Unit | null)?.kind;
    const known = typeof kind === "string" && isUnitKind(kind) && kinds.includes(kind) ? kind : null;
    const params: Record<string, yup.AnySchema> = {};
    if (known) {
      for (const spec of unitSpec(known).params) {
        params[spec.id] =
          spec.type === "choice"
            ? yup
                .string()
                .oneOf(spec.choices.map((c) => c.id))
                .default(spec.default)
            : yup.number().min(spec.min).max(spec.max).default(spec.default);
      }
    }
    return yup.object({
      curve: curve().optional(),
      sample: sha().optional(),
      id: id(),
      kind: yup
        .string()
        .oneOf([...kinds])
        .required(),
      name: text(),
      params: yup.object(params).noUnknown().required(),
    });
  });
}

const level = () => yup.number().nullable().defined();
const nullable = (min: number, max: number) => yup.number().integer().min(min).max(max).nullable().defined();
const treatments = () => list(unit("gain", "offset", "denoise", "fadeIn", "fadeOut", "reverse", "stretch"), 32);
const seconds = (max = 60) => number(0, max);
const search = yup
  .object({
    by: yup.string().oneOf(["level", "attack", "grid", "markers"]).required(),
    threshold: number(0, 96),
    hysteresis: number(0, 96),
    hold: seconds(),
    minGap: seconds(),
    minLength: seconds(),
    preRoll: seconds(),
    tail: seconds(),
    sensitivity: number(0, 1),
    tempo: number(10, 1000),
    beats: number(1 / 64, 1024),
    origin: seconds(1e6),
  })
  .required();
const slice = yup.object({
  id: id(),
  start: frames(),
  end: frames(),
  onset: frames(),
  pitch: level(),
  confidence: number(0, 1),
  peak: number(),
  loudness: number(),
  tone: level(),
  keep: yup.boolean().required(),
  note: level(),
  cents: level(),
  edited: yup.boolean().required(),
  doubt: text(),
  strength: nullable(1, 127),
  repeat: nullable(1, 1000),
  treatments: treatments(),
});

const loop = () =>
  yup
    .object({
      start: frames(),
      end: frames(),
      mode: yup.string().oneOf(["forward", "backward", "alternating"]).required(),
      fade: frames(),
      law: yup.string().oneOf(["match", "gain", "power"]).required(),
      times: whole(0, 1000),
      until: yup.string().oneOf(["release", "end"]).required(),
    })
    .nullable()
    .defined();

const zone = yup.object({
  id: id(),
  sample: sha(),
  keyLow: whole(0, 127),
  keyHigh: whole(0, 127).min(yup.ref("keyLow")),
  keyFadeLow: whole(0, 127),
  keyFadeHigh: whole(0, 127),
  velLow: whole(1, 127),
  velHigh: whole(1, 127).min(yup.ref("velLow")),
  velFadeLow: whole(0, 127),
  velFadeHigh: whole(0, 127),
  root: whole(0, 127),
  track: number(-2, 2),
  tune: number(-1200, 1200),
  gain: number(-96, 48),
  pan: number(-1, 1),
  start: frames(),
  end: frames(),
  reverse: yup.boolean().required(),
  oneShot: yup.boolean().required(),
  loop: loop(),
  releaseLoop: loop(),
  repeat: whole(1, 1000),
  mic: id().nullable().defined(),
});

const layer = yup.object({
  id: id(),
  name: text(),
  source: unit("samples"),
  set: id().nullable().defined(),
  groups: list(yup.object({ id: id(), name: text(), settings: unit("group"), zones: list(zone) }), 1000),
  stages: list(unit("filter"), 8),
  amp: unit("amp"),
  strip: unit("strip"),
});

const schema = yup.object({
  version: whole(1, DOCUMENT_VERSION),
  id: id(),
  about: yup.object({ name: text(), maker: text(), description: text(20000), licence: text(2000) }).required(),
  takes: list(
    yup.object({
      id: id(),
      name: text(),
      sha: sha(),
      rate: number(1000, 768000),
      channels: whole(1, 2),
      frames: frames(),
      origin: yup.string().oneOf(["imported", "recorded", "demo"]).required(),
      date: text(40),
      source: text(500),
      notes: text(20000),
      clips: list(frames(), 1000),
      gaps: list(frames(), 1000),
      markers: list(yup.object({ at: frames(), length: frames(), name: text() })),
      search,
      floor: level(),
      slices: list(slice),
      treatments: treatments(),
    }),
    1000,
  ),
  shots: list(
    yup.object({
      id: id(),
      name: text(),
      note: nullable(0, 127),
      strength: whole(1, 127),
      strengths: whole(1, 127),
      repeat: whole(1, 1000),
      state: yup.string().oneOf(["open", "done", "skipped"]).required(),
    }),
  ),
  naming: text(200),
  samples: list(
    yup.object({
      sha: sha(),
      name: text(),
      frames: frames(),
      rate: number(1000, 768000),
      channels: whole(1, 2),
      pitch: level(),
      confidence: number(0, 1),
      peak: number(),
      loudness: number(),
      strength: nullable(1, 127),
      repeat: nullable(1, 1000),
      use: yup.string().oneOf(["note", "impulse"]).required(),
      from: yup.object({ take: id(), slice: id() }).nullable().defined(),
    }),
  ),
  layers: list(layer, 64),
  envelopes: list(unit("envelope", "path"), 64),
  lfos: list(unit("lfo"), 64),
  macros: list(unit("macro"), 256),
  mics: list(unit("mic"), 32),
  sets: list(unit("set"), 32),
  routes: list(
    yup.object({
      id: id(),
      source: text(),
      target: text(),
      amount: number(-1e5, 1e5),
      on: yup.boolean().required(),
      curve: curve().nullable().defined(),
      scale: yup.string().max(200).nullable().defined(),
      smooth: yup.number().min(0).max(10).nullable().defined(),
    }),
    1000,
  ),
  effects: list(unit("reverb", "convolution"), 32),
  face: yup
    .object({
      width: whole(100, 4000),
      height: whole(100, 4000),
      items: list(
        yup.object({
          id: id(),
          kind: yup.string().oneOf(["dial", "label"]).required(),
          x: number(),
          y: number(),
          width: number(1, 4000),
          height: number(1, 4000),
          text: text(2000),
          bind: yup.string().nullable().defined(),
        }),
        2000,
      ),
    })
    .required(),
  rules: yup.object({ on: yup.boolean().required(), script: text(200000), seed: whole(0, 2 ** 32 - 1) }).required(),
  play: unit("play"),
  tuning: yup
    .object({
      name: text(),
      keys: yup.array(yup.number().min(-200).max(400).nullable().defined()).length(128).required(),
    })
    .nullable()
    .defined(),
});

/** A document from outside, checked: the instrument, or sentences that say where it is wrong. */
export type Checked =
  | { readonly ok: true; readonly instrument: Instrument }
  | { readonly ok: false; readonly problems: readonly string[] };

/** Checks a document of this version (migrate it first); values must already have their types, none is guessed. */
export function checkInstrument(raw: unknown): Checked {
  try {
    const instrument = schema.validateSync(raw, {
      strict: false,
      abortEarly: false,
      stripUnknown: true,
    }) as unknown as Instrument;
    const known = new Set(instrument.samples.map((s) => s.sha));
    const problems = instrument.layers.flatMap((l) =>
      l.groups.flatMap((g) =>
        g.zones
          .filter((z) => !known.has(z.sample))
          .map((z) => `zone ${z.id} of layer ${l.name} names a sample that isn't in the list`),
      ),
    );
    return problems.length > 0 ? { ok: false, problems } : { ok: true, instrument };
  } catch (error) {
    if (error instanceof yup.ValidationError) return { ok: false, problems: error.errors };
    throw error;
  }
}
