import { FormatError } from "../format-error";

/** A setting of an SFZ file as it was written, with where. */
export interface SfzOpcode {
  readonly name: string;
  readonly value: string;
  readonly file: string;
  readonly line: number;
}

/** A header, such as `<region>`, with the settings below it. */
export interface SfzHeader {
  readonly name: string;
  readonly opcodes: readonly SfzOpcode[];
  readonly file: string;
  readonly line: number;
}

export interface SfzText {
  readonly headers: readonly SfzHeader[];
  /** Sentences about what was odd and how it was read. */
  readonly problems: readonly string[];
  /** How many characters were looked at, included files, comments and what definitions add among them. */
  readonly characters: number;
}

/** Limits: of files within files, of all of them together, and of what definitions may blow text up to. */
const MOST_DEEP = 32;
const MOST_FILES = 2000;
const MOST_NAME = 64;
const MOST_VALUE = 1000;
const MOST_CHARACTERS = 2 ** 26;
const MOST_PROBLEMS = 100;

const TOKEN = /<([a-z_]+)>|(?<=^|[\s>])([A-Za-z_]\w*)=/g;
const DEFINE = /^\s*#define\s+\$(\w{1,64})(?:\s+(\S+))?/;
const INCLUDE = /^\s*#include\s+"([^"]*)"/;

/** A path with its dots worked out and `/` between its parts; null where it leads out of the folder in which it begins. */
export function insidePath(path: string): string | null {
  const parts: string[] = [];
  for (const part of path.replaceAll("\\", "/").split("/")) {
    if (part === "" || part === ".") continue;
    if (part !== "..") parts.push(part);
    else if (parts.pop() === undefined) return null;
  }
  return /^[a-z]:$/i.test(parts[0] ?? "") ? null : parts.join("/");
}

/** The folder of a path, with its `/`; empty for none. */
export const folderOf = (path: string): string => path.slice(0, path.lastIndexOf("/") + 1);

/** Reads lines of text and of what they include into headers. */
class TextReader {
  readonly headers: { name: string; opcodes: SfzOpcode[]; file: string; line: number }[] = [];
  readonly problems: string[] = [];
  private readonly defined = new Map<string, string>();
  private readonly open: string[] = [];
  /** Of everything that is read and of all that definitions make of it. */
  characters = 0;
  private files = 0;
  private inComment = false;

  constructor(
    private readonly folder: string,
    private readonly include: (path: string) => string | null,
  ) {}

  private tell(problem: string): void {
    if (this.problems.length < MOST_PROBLEMS) this.problems.push(problem);
  }

  read(path: string, text: string): void {
    if (++this.files > MOST_FILES)
      throw new FormatError("too-large", 0, `it includes more than ${MOST_FILES} files, one in another`);
    // Before it is taken apart: comments and empty lines cost time too.
    this.count(text.length);
    this.open.push(path);
    const lines = text.split(/\r\n?|\n/);
    for (let i = 0; i < lines.length; i++) this.line(lines[i] ?? "", path, i + 1);
    this.open.pop();
  }

  private line(text: string, file: string, line: number): void {
    let rest = this.uncommented(text);
    for (let found = DEFINE.exec(rest); found; found = DEFINE.exec(rest)) {
      const [whole, name = "", value = ""] = found;
      const full = this.expanded(value);
      if (full.length > MOST_VALUE)
        this.tell(`${file}, line ${line}: $${name} is longer than ${MOST_VALUE} characters`);
      else this.defined.set(name, full);
      rest = rest.slice(whole.length);
    }
    const include = INCLUDE.exec(rest);
    if (include) {
      this.includeFile(this.expanded(include[1] ?? ""), file, line);
      rest = rest.slice(include[0].length);
    }
    if (rest.trim() !== "") this.tokens(this.expanded(rest), file, line);
  }

  private uncommented(text: string): string {
    let out = "";
    let at = 0;
    while (at < text.length) {
      if (this.inComment) {
        const end = text.indexOf("*/", at);
        if (end < 0) return out;
        this.inComment = false;
        at = end + 2;
        continue;
      }
      const slash = text.indexOf("/", at);
      if (slash < 0) return out + text.slice(at);
      const next = text[slash + 1];
      if (next === "/") return out + text.slice(at, slash);
      if (next === "*") {
        out += `${text.slice(at, slash)} `;
        this.inComment = true;
        at = slash + 2;
      } else {
        out += text.slice(at, slash + 1);
        at = slash + 1;
      }
    }
    return out;
  }

  /** Text with every `$name` that is defined replaced, the longest name that fits first. */
  private expanded(text: string): string {
    let at = text.indexOf("$");
    if (at < 0 || this.defined.size === 0) return text;
    let out = text.slice(0, at);
    while (at < text.length) {
      let used = 0;
      if (text[at] === "$") {
        let end = at + 1;
        while (end < text.length && end - at <= MOST_NAME && /\w/.test(text[end] ?? "")) end++;
        for (; end > at + 1 && used === 0; end--) {
          const value = this.defined.get(text.slice(at + 1, end));
          if (value === undefined) continue;
          out += value;
          used = end - at;
          this.count(value.length);
        }
      }
      if (used === 0) out += text[at];
      at += used || 1;
    }
    return out;
  }

  private count(more: number): void {
    this.characters += more;
    if (this.characters > MOST_CHARACTERS)
      throw new FormatError("too-large", 0, "it grows endlessly long with what it includes and defines");
  }

  private includeFile(name: string, file: string, line: number): void {
    const path = insidePath(this.folder + name);
    const text = path === null || this.refusal(path) !== null ? null : this.include(path);
    if (path !== null && text !== null) {
      this.read(path, text);
      return;
    }
    const why = path === null ? "leads out of the folder" : (this.refusal(path) ?? "isn't there");
    this.tell(`${file}, line ${line}: “${name}” ${why} and was not included`);
  }

  /** Why a file can't be included where it is asked for; null where it can. */
  private refusal(path: string): string | null {
    if (this.open.includes(path)) return "includes itself";
    return this.open.length > MOST_DEEP ? `is more than ${MOST_DEEP} files deep` : null;
  }

  private tokens(text: string, file: string, line: number): void {
    const found = [...text.matchAll(TOKEN)];
    found.forEach((token, i) => {
      const [whole, header, name] = token;
      const from = token.index + whole.length;
      if (header !== undefined) {
        this.headers.push({ name: header, opcodes: [], file, line });
        return;
      }
      const value = text.slice(from, found[i + 1]?.index ?? text.length).trim();
      const to = this.headers.at(-1);
      if (to && name !== undefined) to.opcodes.push({ name: name.toLowerCase(), value, file, line });
      else this.tell(`${file}, line ${line}: ${name} stands before any header and was passed over`);
    });
  }
}

/**
 * Takes the text of an SFZ file apart: comments, definitions, included files, headers and their settings. `path` is where it lies, folders
 * parted by `/`; `include` gives the text of a file by its path, null where it isn't there. Time is linear in the length of all of it; throws
 * FormatError where there is no header at all, or where it blows itself up beyond 64 million characters.
 */
export function readSfzText(path: string, text: string, include: (path: string) => string | null): SfzText {
  const reader = new TextReader(folderOf(path), include);
  reader.read(path, text.replace(/^\uFEFF/, ""));
  if (reader.headers.length === 0)
    throw new FormatError("not-this-format", 0, "it isn't an SFZ file: there is no header such as <region> in it");
  return { headers: reader.headers, problems: reader.problems, characters: reader.characters };
}
