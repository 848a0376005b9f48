import { FACE_KINDS, FACE_THEMES, MARKS, SOURCES } from "../instrument";
import { kindsAt, UNITS, type UnitKind, unitSpec } from "../units";

const kinds = Object.keys(UNITS) as UnitKind[];
const list = (names: readonly string[]): string => names.map((name) => `_${name}_`).join(", ");

/** Lists of kinds that docs/format.md gives, by their names there. */
const LISTS: Readonly<Record<string, () => string>> = {
  tables: () => list(kinds.filter((kind) => unitSpec(kind).table)),
  sampled: () => list(kinds.filter((kind) => unitSpec(kind).sample)),
  links: () => list(kinds.filter((kind) => unitSpec(kind).links)),
  sources: () => list(kindsAt("source")),
  stages: () => list(kindsAt("stage")),
  inserts: () => list(kindsAt("insert")),
  marks: () => list(MARKS),
  routeSources: () => SOURCES.map(({ id }) => `\`${id}\``).join(", "),
  themes: () => list(FACE_THEMES),
  items: () => list(FACE_KINDS),
};

/** A text with each `<!-- list: NAME -->…<!-- end -->` filled from the registry. An unknown name throws RangeError. */
export const withLists = (text: string): string =>
  text.replace(/<!-- list: (\w+) -->[^<]*<!-- end -->/g, (_, name: string) => {
    const made = LISTS[name];
    if (!made) throw new RangeError(`there is no list ${name}`);
    return `<!-- list: ${name} -->${made()}<!-- end -->`;
  });
