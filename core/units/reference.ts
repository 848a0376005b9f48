import { formatValue, type ParamSpec } from "../params";
import { UNITS, type UnitKind, unitSpec } from "./list";
import type { Place } from "./unit";

/** What there is to know about a parameter, as text. */
export interface ReferenceLine {
  /** Its unit's kind and its own id: `filter/cutoff`. */
  readonly id: string;
  readonly label: string;
  readonly help: string;
  /** From its lowest to its highest value with units, or its choices. */
  readonly range: string;
  readonly initial: string;
  /** Whether routes, macros and the face's controls move it smoothly. */
  readonly modulated: boolean;
}

/** A kind of unit with its parameters. */
export interface ReferenceUnit {
  readonly kind: UnitKind;
  readonly label: string;
  readonly help: string;
  /** Where it may stand; empty where it always stands in one place. */
  readonly where: string;
  readonly lines: readonly ReferenceLine[];
}

const WHERE: Readonly<Record<Place, string>> = {
  source: "source of a layer",
  stage: "in each voice",
  insert: "insert of a layer",
  send: "send",
  main: "master",
};

function lineOf(kind: UnitKind, spec: ParamSpec, prefix = ""): ReferenceLine {
  const value = (v: number) => formatValue(spec, v);
  return {
    id: `${kind}/${prefix}${spec.id}`,
    label: spec.label,
    help: spec.help,
    range:
      spec.type === "choice"
        ? spec.choices.map((c) => c.label).join(", ")
        : spec.unit === "switch"
          ? "off, on"
          : `${value(spec.min)} to ${value(spec.max)}`,
    initial: formatValue(spec, spec.default),
    modulated: spec.type === "number" && spec.mod !== "none",
  };
}

function unitOf(kind: UnitKind): ReferenceUnit {
  const { label, help, places = [], params, table } = unitSpec(kind);
  const rows = table?.columns ?? [];
  return {
    kind,
    label,
    help,
    where: places.map((p) => WHERE[p]).join(", "),
    lines: [...params.map((p) => lineOf(kind, p)), ...rows.map((p) => lineOf(kind, p, "rows/"))],
  };
}

/** Every kind of unit with every parameter, and what there is to know of them; in the order of the registry. */
export const reference = (): readonly ReferenceUnit[] => (Object.keys(UNITS) as UnitKind[]).map(unitOf);

const row = (l: ReferenceLine): string =>
  `| ${l.label} | ${l.help} | ${l.range} | ${l.initial} | ${l.modulated ? "yes" : ""} | \`${l.id.slice(l.id.indexOf("/") + 1)}\` |`;

/** The reference as Markdown, which stands in docs/reference.md. */
export const referenceText = (): string =>
  [
    "# Every unit and parameter",
    "",
    "Written by `npm run docs` from the registry (`core/units`); in the application F1 on a control opens its line.",
    ...reference().flatMap(({ kind, label, help, where, lines }) => [
      "",
      `## ${label}`,
      "",
      `${help}${where === "" ? "" : ` Where: ${where}.`} Kind: \`${kind}\`.`,
      "",
      "| parameter | what it does | range | initial | modulated | id |",
      "| --- | --- | --- | --- | --- | --- |",
      ...lines.map(row),
    ]),
    "",
  ].join("\n");
