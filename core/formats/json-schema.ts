import { curveShape, DOCUMENT_VERSION, documentShape, type Shape, tableShape } from "../instrument";
import type { ParamSpec } from "../params";
import { UNITS, type UnitKind, unitSpec } from "../units";

type Json = { readonly [key: string]: unknown };

const ref = (name: string): Json => ({ $ref: `#/$defs/${name}` });
const described = (help: string | undefined): Json => (help === undefined ? {} : { description: help });

/** A part of the document as a JSON Schema. */
function schemaOf(shape: Shape): Json {
  switch (shape.type) {
    case "number": {
      const type = shape.whole ? "integer" : "number";
      return { type, minimum: shape.min, maximum: shape.max, ...described(shape.help) };
    }
    case "text":
      return { type: "string", maxLength: shape.most, ...described(shape.help) };
    case "like":
      return { type: "string", maxLength: shape.most, pattern: shape.pattern.source };
    case "id":
      return { type: "string", pattern: "^[\\w.-]{1,64}$" };
    case "sha":
      return { type: "string", pattern: "^[0-9a-f]{64}$" };
    case "choice":
      return { enum: shape.of };
    case "flag":
      return { type: "boolean" };
    case "maybe":
      return { oneOf: [{ type: "null" }, schemaOf(shape.of)] };
    case "list": {
      const least = shape.least > 0 ? { minItems: shape.least } : {};
      return { type: "array", ...least, maxItems: shape.most, items: schemaOf(shape.of) };
    }
    case "object":
      return object(Object.fromEntries(Object.entries(shape.fields).map(([name, field]) => [name, schemaOf(field)])));
    case "unit":
      return shape.kinds.length === 1 ? ref(shape.kinds[0] as string) : { oneOf: shape.kinds.map(ref) };
  }
}

const object = (properties: Record<string, Json>): Json => ({
  type: "object",
  properties,
  required: Object.keys(properties),
  additionalProperties: false,
});

const paramSchema = (p: ParamSpec): Json =>
  p.type === "choice"
    ? { enum: p.choices.map((c) => c.id), default: p.default, description: p.help }
    : { type: "number", minimum: p.min, maximum: p.max, default: p.default, description: `${p.help} Unit: ${p.unit}.` };

function unitSchema(kind: UnitKind): Json {
  const spec = unitSpec(kind);
  const params = Object.fromEntries(spec.params.map((p) => [p.id, paramSchema(p)]));
  const properties = {
    id: schemaOf({ type: "id" }),
    kind: { const: kind },
    name: schemaOf({ type: "text", most: 200 }),
    params: { type: "object", properties: params, additionalProperties: false },
  };
  return {
    description: spec.help,
    ...object(properties),
    properties: {
      ...properties,
      curve: schemaOf(curveShape),
      sample: schemaOf({ type: "sha" }),
      ...(spec.links ? { from: schemaOf({ type: "id" }) } : {}),
      ...(spec.table ? { table: schemaOf(tableShape(spec.table)) } : {}),
    },
  };
}

/** The JSON Schema of a package's instrument.json: from the document's shape, its units from the registry of parameters. */
export function instrumentJsonSchema(): Json {
  const document = schemaOf(documentShape) as { properties: Record<string, Json> };
  return {
    $schema: "https://json-schema.org/draft/2020-12/schema",
    title: `Vise instrument, version ${DOCUMENT_VERSION}`,
    ...document,
    properties: {
      ...document.properties,
      version: { const: DOCUMENT_VERSION },
      takes: { type: "array", description: "Empty in a package." },
    },
    $defs: Object.fromEntries((Object.keys(UNITS) as UnitKind[]).map((kind) => [kind, unitSchema(kind)])),
  };
}
