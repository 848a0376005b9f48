import { DOCUMENT_VERSION } from "../instrument";
import { UNITS, type UnitKind } from "../params";

type Json = { readonly [key: string]: unknown };

const text: Json = { type: "string" };
const number: Json = { type: "number" };
const maybe = (type: string): Json => ({ type: [type, "null"] });
const whole = (minimum: number, maximum: number): Json => ({ type: "integer", minimum, maximum });
const frames = whole(0, 2 ** 31 - 1);
const id: Json = { type: "string", pattern: "^[\\w.-]{1,64}$" };
const sha: Json = { type: "string", pattern: "^[0-9a-f]{64}$" };
const list = (items: Json): Json => ({ type: "array", items });
const object = (properties: Record<string, Json>): Json => ({
  type: "object",
  properties,
  required: Object.keys(properties),
});
const ref = (name: string): Json => ({ $ref: `#/$defs/${name}` });

const curve: Json = {
  type: "array",
  minItems: 1,
  maxItems: 256,
  items: object({
    x: number,
    y: { type: "number", minimum: -1, maximum: 1 },
    bend: { type: "number", minimum: -1, maximum: 1 },
  }),
};

function unitSchema(kind: UnitKind): Json {
  const spec = UNITS[kind];
  const params: Record<string, Json> = {};
  for (const p of spec.params) {
    params[p.id] =
      p.type === "choice"
        ? { enum: p.choices.map((c) => c.id), default: p.default, description: p.help }
        : {
            type: "number",
            minimum: p.min,
            maximum: p.max,
            default: p.default,
            description: `${p.help} Unit: ${p.unit}.`,
          };
  }
  return {
    description: spec.help,
    ...object({ id, kind: { const: kind }, name: text }),
    properties: {
      id,
      kind: { const: kind },
      name: text,
      params: { type: "object", properties: params, additionalProperties: false },
      ...(kind === "lfo" || kind === "path" ? { curve } : {}),
      ...(kind === "convolution" ? { sample: sha } : {}),
    },
    required: ["id", "kind", "name", "params"],
  };
}

const loop: Json = {
  oneOf: [
    { type: "null" },
    object({
      start: frames,
      end: frames,
      mode: { enum: ["forward", "backward", "alternating"] },
      fade: frames,
      law: { enum: ["match", "gain", "power"], description: "how the crossfade keeps the level" },
      times: { ...whole(0, 1000), description: "how often it is played in all; 0 has no end" },
      until: { enum: ["release", "end"], description: "whether letting go leaves it" },
    }),
  ],
};

const zone = object({
  id,
  sample: sha,
  keyLow: whole(0, 127),
  keyHigh: whole(0, 127),
  keyFadeLow: whole(0, 127),
  keyFadeHigh: whole(0, 127),
  velLow: whole(1, 127),
  velHigh: whole(1, 127),
  velFadeLow: whole(0, 127),
  velFadeHigh: whole(0, 127),
  root: whole(0, 127),
  track: { ...number, description: "how far the pitch follows the keys: 1 fully" },
  tune: { ...number, description: "cents" },
  gain: { ...number, description: "decibels" },
  pan: { type: "number", minimum: -1, maximum: 1 },
  start: frames,
  end: frames,
  reverse: { type: "boolean" },
  oneShot: { type: "boolean" },
  loop,
  releaseLoop: loop,
  repeat: whole(1, 1000),
  mic: maybe("string"),
});

/** The JSON Schema of a package's instrument.json, its units taken from the registry of parameters. */
export function instrumentJsonSchema(): Json {
  return {
    $schema: "https://json-schema.org/draft/2020-12/schema",
    title: `Vise instrument, version ${DOCUMENT_VERSION}`,
    ...object({
      version: { const: DOCUMENT_VERSION },
      id,
      about: object({ name: text, maker: text, description: text, licence: text }),
      takes: { type: "array", description: "Empty in a package." },
      shots: list(
        object({
          id,
          name: text,
          note: maybe("integer"),
          strength: whole(1, 127),
          strengths: whole(1, 127),
          repeat: whole(1, 1000),
          state: { enum: ["open", "done", "skipped"] },
        }),
      ),
      naming: { ...text, description: "the pattern by which samples are named" },
      samples: list(
        object({
          sha,
          name: text,
          frames,
          rate: number,
          channels: whole(1, 2),
          pitch: maybe("number"),
          confidence: { type: "number", minimum: 0, maximum: 1 },
          peak: number,
          loudness: number,
          strength: maybe("integer"),
          repeat: maybe("integer"),
          use: { enum: ["note", "impulse"] },
          from: maybe("object"),
        }),
      ),
      layers: list(
        object({
          id,
          name: text,
          source: ref("samples"),
          set: maybe("string"),
          groups: list(object({ id, name: text, settings: ref("group"), zones: list(zone) })),
          stages: { type: "array", maxItems: 8, items: ref("filter") },
          amp: ref("amp"),
          strip: ref("strip"),
        }),
      ),
      envelopes: list({ oneOf: [ref("envelope"), ref("path")] }),
      lfos: list(ref("lfo")),
      macros: list(ref("macro")),
      mics: list(ref("mic")),
      sets: list(ref("set")),
      routes: list(
        object({
          id,
          source: text,
          target: text,
          amount: number,
          on: { type: "boolean" },
          curve: { oneOf: [{ type: "null" }, curve] },
          scale: maybe("string"),
          smooth: maybe("number"),
        }),
      ),
      effects: list({ oneOf: [ref("reverb"), ref("convolution")] }),
      face: object({
        width: whole(100, 4000),
        height: whole(100, 4000),
        items: list(
          object({
            id,
            kind: { enum: ["dial", "label"] },
            x: number,
            y: number,
            width: number,
            height: number,
            text,
            bind: maybe("string"),
          }),
        ),
      }),
      rules: object({ on: { type: "boolean" }, script: text, seed: whole(0, 2 ** 32 - 1) }),
      play: ref("play"),
      tuning: {
        oneOf: [
          { type: "null" },
          object({ name: text, keys: { type: "array", minItems: 128, maxItems: 128, items: maybe("number") } }),
        ],
      },
    }),
    $defs: Object.fromEntries((Object.keys(UNITS) as UnitKind[]).map((kind) => [kind, unitSchema(kind)])),
  };
}
