import type { ParamSpec } from "../params";
import { isUnitKind, UNITS, unitSpec } from "../units";
import { newUnit } from "./defaults";
import { curveShape, tableShape } from "./document-shape";
import type { Unit } from "./instrument";
import {
  type ListShape,
  type NumberShape,
  type ObjectShape,
  type Shape,
  sha as shaShape,
  type UnitShape,
} from "./shape";

/** Something that is not as the document's shape has it. */
export interface Fault {
  /** Where: `layers[0].groups[0].zones[3].repeat`. */
  readonly path: string;
  /** What is wrong there, as the end of a sentence that begins with the place. */
  readonly problem: string;
  /** What puts it right, as a sentence without its full stop. */
  readonly repair: string;
  /** Whether putting it right throws something away that somebody may miss. */
  readonly loses: boolean;
}

/** Stands for a value that nothing can stand for: whoever holds it does without, or is gone too. */
export const GONE: unique symbol = Symbol("gone");

type Json = Readonly<Record<string, unknown>>;
const isObject = (value: unknown): value is Json =>
  typeof value === "object" && value !== null && !Array.isArray(value);

const ID = /^[\w.-]{1,64}$/;
const SHA = /^[0-9a-f]{64}$/;

const isId = (value: unknown): value is string => typeof value === "string" && ID.test(value);

const shown = (value: unknown): string => {
  if (typeof value === "string") return `“${value.length > 40 ? `${value.slice(0, 40)}…` : value}”`;
  if (value === null || typeof value === "number" || typeof value === "boolean") return String(value);
  return Array.isArray(value)
    ? value.length === 0
      ? "an empty list"
      : "a list"
    : value === undefined
      ? "nothing"
      : `an object`;
};

/** Text cut to so many UTF-16 units, never through the middle of a character. */
export function cutText(text: string, most: number): string {
  if (text.length <= most) return text;
  const last = text.charCodeAt(most - 1);
  return text.slice(0, last >= 0xd800 && last < 0xdc00 ? most - 1 : most);
}

/**
 * Compares a value with its shape and puts right what isn't: numbers into their range, text to its length, lists to theirs. What is right
 * stays the very same object. Collects what was wrong in `faults`.
 */
export class Settler {
  readonly faults: Fault[] = [];
  private readonly place: (string | number)[] = [];

  /**
   * `trusted` tells objects that are known to be right, so that they needn't be looked at again; `complete`: a field that is missing is a
   * loss, as in a document of our own making.
   */
  constructor(
    private readonly trusted: (value: object) => boolean = () => false,
    private readonly complete = false,
  ) {}

  /** The value put right; GONE where nothing can stand for it. `before`: what stood there, settled, so that members of lists that are still there are not looked at again. */
  settle(shape: Shape, value: unknown, before?: unknown): unknown {
    if (typeof value === "object" && value !== null && this.trusted(value)) return value;
    switch (shape.type) {
      case "number":
        return this.number(shape, value);
      case "text":
        if (typeof value !== "string") return this.standIn(shape, value);
        if (value.length <= shape.most) return value;
        this.report(`is longer than ${shape.most} characters`, `Keep the first ${shape.most}`);
        return cutText(value, shape.most);
      case "like":
        if (typeof value === "string" && value.length <= shape.most && shape.pattern.test(value)) return value;
        return this.standIn(shape, value);
      case "id":
      case "sha":
        if (typeof value === "string" && (shape.type === "id" ? ID : SHA).test(value)) return value;
        return this.standIn(shape, value);
      case "choice":
        return typeof value === "string" && shape.of.includes(value) ? value : this.standIn(shape, value);
      case "flag":
        return typeof value === "boolean" ? value : this.standIn(shape, value);
      case "maybe": {
        if (value === null) return null;
        if (value === undefined) return this.standIn(shape, value);
        const settled = this.settle(shape.of, value, before);
        return settled === GONE ? null : settled;
      }
      case "list":
        return this.list(shape, value, before);
      case "object":
        return isObject(value) ? this.object(shape, value, before) : this.standIn(shape, value);
      case "unit":
        return this.unit(shape, value);
    }
  }

  /** Settles what lies one step further in. */
  at(step: string | number, shape: Shape, value: unknown, before?: unknown): unknown {
    this.place.push(step);
    const settled = this.settle(shape, value, before);
    this.place.pop();
    return settled;
  }

  report(problem: string, repair: string, loses = false, further: readonly (string | number)[] = []): void {
    const path = [...this.place, ...further]
      .map((step, i) => (typeof step === "number" ? `[${step}]` : i > 0 ? `.${step}` : step))
      .join("");
    this.faults.push({ path, problem, repair, loses });
  }

  /** What stands for a value that is missing or of another type, told. */
  private standIn(shape: Shape, value: unknown): unknown {
    const settled = otherwise(shape, String(this.place.at(-1) ?? "unit"));
    const problem = value === undefined ? "is missing" : `can't be ${shown(value)}`;
    this.report(
      problem,
      settled === GONE ? "Remove it" : `Make it ${shown(settled)}`,
      this.complete || value !== undefined,
    );
    return settled;
  }

  private number(shape: NumberShape, value: unknown): unknown {
    if (typeof value === "string" && value.trim() !== "" && Number.isFinite(Number(value))) {
      this.report("is text and must be a number", `Make it ${value}`);
      return this.number(shape, Number(value));
    }
    if (typeof value !== "number" || Number.isNaN(value)) return this.standIn(shape, value);
    const settled = Math.min(shape.max, Math.max(shape.min, shape.whole ? Math.round(value) : value));
    if (settled === value) return value;
    const range = `${shape.min} to ${shape.max}`;
    this.report(
      value < shape.min || value > shape.max
        ? `is ${value}, beyond ${range}`
        : `is ${value} and must be a whole number`,
      `Make it ${settled}`,
    );
    return settled;
  }

  private list(shape: ListShape, value: unknown, before: unknown): unknown {
    if (!Array.isArray(value)) return this.standIn(shape, value);
    if (Array.isArray(before) && keepsKeys(shape, value, before)) return this.changed(shape, value, before);
    let items: readonly unknown[] = value;
    if (items.length > shape.most) {
      this.report(
        `holds ${items.length}: there can be no more than ${shape.most} ${shape.what}`,
        `Keep the first ${shape.most}`,
        true,
      );
      items = items.slice(0, shape.most);
    }
    const keys = shape.key === null ? null : new Set<unknown>();
    const settled: unknown[] = [];
    let same = items === value;
    for (let i = 0; i < items.length; i++) {
      const item = this.at(i, shape.of, keys && shape.key === "id" ? this.withId(items[i], i, keys) : items[i]);
      if (item === GONE || (keys && shape.key && this.isDouble(item as Json, shape.key, i, keys))) {
        same = false;
        continue;
      }
      if (item !== items[i]) same = false;
      settled.push(item);
    }
    if (settled.length < shape.least) return this.standIn(shape, value);
    const rest = same ? value : settled;
    return this.byRule(shape, rest);
  }

  /** A list whose members are those of before, each in its place: only what differs is looked at. */
  private changed(shape: ListShape, value: readonly unknown[], before: readonly unknown[]): unknown {
    let settled: unknown[] | null = null;
    for (let i = 0; i < value.length; i++) {
      if (value[i] === before[i]) continue;
      const item = this.at(i, shape.of, value[i], before[i]);
      if (item === value[i]) continue;
      settled ??= [...value];
      settled[i] = item;
    }
    return this.byRule(
      shape,
      settled?.some((item) => item === GONE) ? settled.filter((i) => i !== GONE) : (settled ?? value),
    );
  }

  /** A member with an id that can be one and that no other has. */
  private withId(item: unknown, index: number, taken: ReadonlySet<unknown>): unknown {
    if (!isObject(item)) return item;
    const { id } = item;
    const good = isId(id);
    if (good && !taken.has(id)) return item;
    let fresh = "";
    for (let n = index + 1; fresh === "" || taken.has(fresh); n++) fresh = `n${n}`;
    this.report(
      good ? `is ${shown(id)}, which another has` : `can't be ${shown(id)}`,
      `Make it “${fresh}”`,
      this.complete && !good,
      [index, "id"],
    );
    return { ...item, id: fresh };
  }

  private isDouble(item: Json, key: "id" | "sha", index: number, taken: Set<unknown>): boolean {
    if (taken.has(item[key])) {
      this.report("is there twice", "Keep the first", false, [index]);
      return true;
    }
    taken.add(item[key]);
    return false;
  }

  private byRule(shape: ListShape | ObjectShape, value: unknown): unknown {
    const broken = shape.rule?.(value as never);
    if (!broken) return value;
    this.report(broken.problem, "Put it in order");
    return broken.settled;
  }

  private object(shape: ObjectShape, value: Json, before?: unknown): unknown {
    let settled: Record<string, unknown> | null = null;
    for (const field in shape.fields) {
      const part = this.at(
        field,
        shape.fields[field] as Shape,
        Object.hasOwn(value, field) ? value[field] : undefined,
        isObject(before) ? before[field] : undefined,
      );
      if (part === GONE) return GONE;
      if (part === value[field] && Object.hasOwn(value, field)) continue;
      settled ??= this.known(shape.fields, value);
      settled[field] = part;
    }
    for (const field of Object.keys(value)) {
      if (Object.hasOwn(shape.fields, field)) continue;
      this.report("is not known here", "Remove it", false, [field]);
      settled ??= this.known(shape.fields, value);
    }
    return this.byRule(shape, settled ?? value);
  }

  private known(fields: Readonly<Record<string, unknown>>, value: Json): Record<string, unknown> {
    return Object.fromEntries(Object.entries(value).filter(([field]) => Object.hasOwn(fields, field)));
  }

  private unit(shape: UnitShape, value: unknown): unknown {
    if (!isObject(value)) return this.standIn(shape, value);
    const kind = shape.kinds.find((k) => k === value.kind);
    if (kind === undefined || !isUnitKind(kind)) {
      this.report(`can't be ${shown(value.kind)}`, "Remove the unit", true, ["kind"]);
      return this.place.length > 0 && typeof this.place.at(-1) === "number"
        ? GONE
        : otherwise(shape, String(this.place.at(-1)));
    }
    const fields: Record<string, Shape> = {
      id: { type: "id" },
      kind: { type: "choice", of: [kind] },
      name: { type: "text", most: 200 },
      params: { type: "object", fields: PARAM_SHAPES[kind], rule: null },
    };
    if (value.curve !== undefined) fields.curve = { type: "maybe", of: curveShape };
    if (value.sample !== undefined) fields.sample = { type: "maybe", of: shaShape };
    const { table: rows, links } = unitSpec(kind);
    if (links && value.from !== undefined) fields.from = { type: "maybe", of: { type: "id" } };
    if (rows && value.table !== undefined) fields.table = { type: "maybe", of: tableShape(rows) };
    const place = this.place.at(-1);
    // A unit that is the only one in its place needs no name of its own.
    const id = typeof place === "string" && !isId(value.id) ? place : value.id;
    if (id !== value.id) this.report(`can't be ${shown(value.id)}`, `Make it “${place}”`, false, ["id"]);
    // A parameter that is missing stands at its default: nothing is wrong with that.
    const params = isObject(value.params) ? this.filled(kind, value.params) : {};
    const { curve, sample, table, from, ...plain } = value;
    const whole = {
      ...plain,
      id,
      params,
      ...(curve === undefined ? {} : { curve }),
      ...(sample === undefined ? {} : { sample }),
      ...(table === undefined ? {} : { table }),
      ...(from === undefined ? {} : { from }),
    };
    const same = id === value.id && params === value.params && Object.keys(whole).length === Object.keys(value).length;
    const settled = this.object({ type: "object", fields, rule: null }, same ? value : whole);
    if (settled === GONE) return GONE;
    const unit = settled as Unit & { curve?: unknown; sample?: unknown; table?: unknown; from?: unknown };
    if (unit.curve !== null && unit.sample !== null && unit.table !== null && unit.from !== null) return unit;
    const { curve: line, sample: impulse, table: kept, from: heard, ...rest } = unit;
    return {
      ...rest,
      ...(line ? { curve: line } : {}),
      ...(impulse ? { sample: impulse } : {}),
      ...(kept ? { table: kept } : {}),
      ...(heard ? { from: heard } : {}),
    };
  }

  private filled(kind: Unit["kind"], params: Json): Json {
    const missing = unitSpec(kind).params.filter((p) => !Object.hasOwn(params, p.id));
    return missing.length === 0 ? params : { ...params, ...Object.fromEntries(missing.map((p) => [p.id, p.default])) };
  }
}

/** Whether the members of a list are known by the same keys as those of another, place for place, so that none is there twice. */
function keepsKeys({ key }: ListShape, value: readonly unknown[], before: readonly unknown[]): boolean {
  if (value.length !== before.length) return false;
  for (let i = 0; i < value.length; i++) {
    const [item, old] = [value[i], before[i]];
    if (item === old) continue;
    if (key !== null && (!isObject(item) || !isObject(old) || item[key] !== old[key])) return false;
  }
  return true;
}

const shapeOfParam = (spec: ParamSpec): Shape =>
  spec.type === "choice"
    ? { type: "choice", of: [spec.default, ...spec.choices.map((c) => c.id)] }
    : { type: "number", min: spec.min, max: spec.max, whole: false, otherwise: spec.default };

/** The shapes of each kind's parameters. */
const PARAM_SHAPES = Object.fromEntries(
  (Object.keys(UNITS) as Unit["kind"][]).map((kind) => [
    kind,
    Object.fromEntries(unitSpec(kind).params.map((spec) => [spec.id, shapeOfParam(spec)])),
  ]),
) as Readonly<Record<Unit["kind"], Readonly<Record<string, Shape>>>>;

/** What stands for a value of a shape that is missing; `name` is the field in which it is. */
function otherwise(shape: Shape, name: string): unknown {
  switch (shape.type) {
    case "number":
      return shape.otherwise ?? GONE;
    case "text":
      return "";
    case "like":
      return shape.otherwise ?? GONE;
    case "id":
    case "sha":
      return GONE;
    case "choice":
      return shape.of[0];
    case "flag":
      return false;
    case "maybe":
      return null;
    case "list":
      return shape.otherwise?.() ?? (shape.least === 0 ? [] : GONE);
    case "object": {
      const made = Object.entries(shape.fields).map(([field, part]) => [field, otherwise(part, field)] as const);
      return made.some(([, part]) => part === GONE) ? GONE : Object.fromEntries(made);
    }
    case "unit":
      return shape.kinds[0] ? newUnit(shape.kinds[0], name) : GONE;
  }
}
