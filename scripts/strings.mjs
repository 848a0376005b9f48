// Lists every text of the interface, read from the code by Vite's own parser: `npm run strings`, or with part of a path.
// With --check it prints only those that hold a word that we gave up, and fails if there is one.
import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { parseSync } from "vite";

/** Attributes and properties whose text nobody reads. */
const UNREAD = new Set([
  ..."className class id key htmlFor type role side align d fill stroke viewBox transform to href src accept kind".split(
    " ",
  ),
  ..."by tone variant colour use store from mode method field data-testid style".split(" "),
]);
/** Attributes and properties whose text only people read. */
const READ = new Set(["label", "head", "header", "title", "word", "hint", "text", "placeholder", "help", "lowest"]);
/** Calls whose text nobody reads. */
const SILENT =
  /^(useView|setView|getElementById|querySelector(All)?|(add|remove)EventListener|createElement|[gs]etItem|startsWith|endsWith|includes|split|closest|matches|postMessage|classNames|[gs]etAttribute|[gs]etProperty(Value)?|getByTestId|localeCompare|read[A-Z]\w*)$/;

/** Words that we gave up for the trade's, with those that stand there now. */
const GIVEN_UP = [
  [/\bfollows? keys\b/i, "key tracking"],
  [/\b(of|to) the whole\b(?! \p{L})/iu, "master"],
  [/\bstrengths?\b(?!\})/i, "velocity layer"],
  [/\bheard? alone\b/i, "solo"],
  [/^pale\b/i, "dim"],
  [/\bphase (depth|bend)\b/i, "phase modulation, phase distortion"],
  [/\b(sync above|sub below)\b/i, "sync pitch, sub interval"],
  [/^(irregular|around it|towards|closes below|opens in|stays open|closes in|ducks by|comes back in)$/i, "the trade's"],
  [/\brecorded room$/i, "convolution reverb"],
  [
    /^(split at|runs up in|turned over|goes by|goes|lasts|fades by|kept even|settles on|wishes|unrolled)$/i,
    "the trade's",
  ],
  [/\blead(s|ing)? (into|no layer)\b/i, "route to"],
  [/\ba ring\b/i, "a feedback loop"],
  [/\bplace by key\b/i, "pan by key"],
  [/^(ready|snapshots?)\b/i, "preset"],
  [/\bpoint envelope\b/i, "multi-stage envelope"],
  [/\bthere and back\b/i, "ping-pong"],
  [/\bas alike as\b/i, "auto"],
  [/\buntil let go\b/i, "until release"],
  [/\btimes as tall\b/i, "zoom"],
  [/\bmacros between\b/i, "insert macros"],
  [/\b(which|where) is it\?$/i, "pitch and layer, position"],
  [/\bby attack\b/i, "by transient"],
  [/\b(end all notes|little controller)\b/i, "all notes off, on-screen controller"],
  [/\bturn round\b/i, "invert"],
  [/\bdoubts?\b/i, "warning"],
  [/^(does|sure|strengths?,)$/i, "type, confidence, velocity layers"],
  [/^slide$/i, "note timbre"],
  [/\b(leave|left) out\b(?! of)/i, "exclude, remove, skip"],
  [/\bbring(ing)? in\b/i, "import"],
  [/\bwrite files\b/i, "export files"],
  [/\bchoose\b/i, "select"],
  [/exception’s own text/, "a message says why in words"],
  [/^\w*Error:/, "a message has no such beginning"],
  [/^\{…\} (zones|samples|slices|files|takes|loops|markers|warnings)\b(?! (are|hold))/, "plural(): one is no many"],
];

const isNode = (value) => typeof value === "object" && value !== null && typeof value.type === "string";
const nameOf = (node) => node?.name?.name ?? node?.name ?? node?.value ?? node?.property?.name ?? "";

/** Every text in a file that a person may come to read: line and text, with {…} for what is put in. */
export function stringsOf(path, code) {
  const { program, errors } = parseSync(path, code);
  if (errors.length > 0) throw new Error(`${path}: ${errors[0].message}`);
  const found = [];
  const add = (node, said, read = false) => {
    const clean = said.replace(/\s+/g, " ").trim();
    // A word of small letters alone is an id, unless it stands where only people read.
    if (!/\p{L}/u.test(clean.replaceAll("{…}", "")) || !(read || /\s/.test(clean) || /^[\p{Lu}“+]/u.test(clean)))
      return;
    if (found.at(-1)?.text !== clean) found.push({ line: code.slice(0, node.start).split("\n").length, text: clean });
  };
  const skipped = (node) =>
    /^TS(Type|Interface|Enum|Literal|Union)|^(Import|ExportAll)/.test(node.type) ||
    (node.type === "JSXAttribute" && UNREAD.has(nameOf(node))) ||
    (node.type === "CallExpression" && SILENT.test(nameOf(node.callee))) ||
    node.type === "TaggedTemplateExpression" ||
    (node.type === "Property" && node.value?.type === "Literal" && UNREAD.has(nameOf(node.key))) ||
    (node.type === "BinaryExpression" && /^[!=]==?$/.test(node.operator));
  const look = (node) => {
    if (skipped(node)) return;
    const { key, name, value } = node;
    if (READ.has(key?.name ?? name?.name) && typeof value?.value === "string") add(value, value.value, true);
    if (node.type === "Literal" && typeof node.value === "string") add(node, node.value);
    if (node.type === "TemplateLiteral" && node.expressions.some((e) => nameOf(e) === "error"))
      found.push({
        line: code.slice(0, node.start).split("\n").length,
        text: "an exception’s own text: reasonOf says why",
      });
    if (node.type === "TemplateLiteral") add(node, node.quasis.map((q) => q.value.cooked ?? "").join("{…}"));
    if (
      (node.type === "JSXElement" || node.type === "JSXFragment") &&
      node.children.some((c) => c.type === "JSXText" && /\p{L}/u.test(c.value))
    )
      add(node, node.children.map((c) => (c.type === "JSXText" ? c.value : "{…}")).join(""), true);
    for (const [key, value] of Object.entries(node)) {
      if (node.type === "Property" && key === "key") continue;
      if (node.type === "JSXText") continue;
      for (const child of Array.isArray(value) ? value : [value]) if (isNode(child)) look(child);
    }
  };
  look(program);
  return found;
}

/** The files whose texts are read. */
export const listRead = (part = "") =>
  execFileSync("git", ["ls-files", "app", "core", "cli", "server"], { encoding: "utf8" })
    .split("\n")
    .filter(
      (f) =>
        /\.tsx?$/.test(f) &&
        !/\.test\.|\.d\.ts$|\/test-/.test(f) &&
        !/\/assembly\/|lexicon\.ts$/.test(f) &&
        f.includes(part),
    );

if (process.argv[1]?.endsWith("strings.mjs")) {
  const check = process.argv.includes("--check");
  let wrong = 0;
  for (const file of listRead(process.argv.slice(2).find((a) => !a.startsWith("--")))) {
    const found = stringsOf(file, readFileSync(file, "utf8"));
    if (!check && found.length > 0)
      console.log([file, ...found.map(({ line, text }) => `  ${line}: ${text}`)].join("\n"));
    if (!check) continue;
    for (const { line, text } of found)
      for (const [word, instead] of GIVEN_UP)
        if (word.test(text)) {
          wrong++;
          console.log(`${file}:${line}: “${text}”: ${instead}`);
        }
  }
  if (wrong > 0) process.exit(1);
}
