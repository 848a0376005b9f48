import type { UnitKind } from "../units";

/** A number, or null where `nullable`; `otherwise` is what a missing or impossible one becomes (undefined: nothing can stand for it). */
export interface NumberShape {
  readonly type: "number";
  readonly min: number;
  readonly max: number;
  readonly whole: boolean;
  readonly otherwise: number | undefined;
  readonly help?: string;
}

/** Text of at most so many UTF-16 units. */
interface TextShape {
  readonly type: "text";
  readonly most: number;
  readonly help?: string;
}

/** Text of one form only, such as a colour; `otherwise` is what anything else becomes (undefined: nothing can stand for it). */
interface LikeShape {
  readonly type: "like";
  readonly pattern: RegExp;
  readonly most: number;
  readonly otherwise: string | undefined;
}

/** A short id, or the SHA-256 of a file in hexadecimal. */
interface NameShape {
  readonly type: "id" | "sha";
}

interface ChoiceShape {
  readonly type: "choice";
  readonly of: readonly string[];
}

interface FlagShape {
  readonly type: "flag";
}

/** A list of at most so many; `key` is the field by which its members are told apart. */
export interface ListShape {
  readonly type: "list";
  readonly of: Shape;
  readonly least: number;
  readonly most: number;
  readonly key: "id" | "sha" | null;
  readonly rule: Rule | null;
  /** What stands for a list that is too short or none at all; null: nothing can, unless it may be empty. */
  readonly otherwise: (() => readonly unknown[]) | null;
  /** What it holds, for people: `LFOs`. */
  readonly what: string;
}

export interface ObjectShape {
  readonly type: "object";
  readonly fields: Readonly<Record<string, Shape>>;
  /** What else must hold, once every field is as it should be. */
  readonly rule: Rule | null;
}

/** Either null or that. */
interface MaybeShape {
  readonly type: "maybe";
  readonly of: Shape;
}

/** A unit of one of some kinds, its parameters as the registry declares them. */
export interface UnitShape {
  readonly type: "unit";
  readonly kinds: readonly UnitKind[];
}

/** What a part of the document looks like: from it come the check, the repair and the JSON Schema. */
export type Shape =
  | NumberShape
  | TextShape
  | LikeShape
  | NameShape
  | ChoiceShape
  | FlagShape
  | ListShape
  | ObjectShape
  | MaybeShape
  | UnitShape;

/** What is wrong with a value whose fields are all right by themselves, and the value put right; null where nothing is. */
type Rule = (value: never) => { readonly problem: string; readonly settled: unknown } | null;

export const number = (min = -1e12, max = 1e12, otherwise?: number, help?: string): NumberShape => ({
  type: "number",
  min,
  max,
  whole: false,
  otherwise,
  ...(help === undefined ? {} : { help }),
});
export const whole = (min: number, max: number, otherwise?: number, help?: string): NumberShape => ({
  ...number(min, max, otherwise, help),
  whole: true,
});
/** A place or a length in frames. */
export const frames = (otherwise?: number): NumberShape => whole(0, 2 ** 31 - 1, otherwise);
export const text = (most = 200, help?: string): TextShape => ({
  type: "text",
  most,
  ...(help === undefined ? {} : { help }),
});
export const like = (pattern: RegExp, most: number, otherwise?: string): LikeShape => ({
  type: "like",
  pattern,
  most,
  otherwise,
});
export const id: NameShape = { type: "id" };
export const sha: NameShape = { type: "sha" };
export const flag: FlagShape = { type: "flag" };
export const choice = (...of: readonly string[]): ChoiceShape => ({ type: "choice", of });
export const maybe = (of: Shape): MaybeShape => ({ type: "maybe", of });
export const unit = (...kinds: readonly UnitKind[]): UnitShape => ({ type: "unit", kinds });
export const object = (fields: Readonly<Record<string, Shape>>, rule: Rule | null = null): ObjectShape => ({
  type: "object",
  fields,
  rule,
});
export const list = (
  what: string,
  of: Shape,
  most: number,
  more: Partial<Pick<ListShape, "key" | "least" | "rule" | "otherwise">> = {},
): ListShape => ({ type: "list", of, least: 0, most, key: null, rule: null, otherwise: null, what, ...more });
/** A list whose members have ids of their own; with `otherwise` it is never empty. */
export const named = (what: string, of: Shape, most: number, otherwise: ListShape["otherwise"] = null): ListShape =>
  list(what, of, most, { key: "id", least: otherwise ? 1 : 0, otherwise });
