import { parseArgs } from "node:util";

/** A mistake of whoever typed the command: one line that says what, where and what to do. */
export class UsageError extends Error {}

interface Arguments {
  readonly files: readonly string[];
  readonly json: boolean;
  readonly text: (name: string) => string | null;
  readonly number: (name: string, fallback: number) => number;
  readonly flag: (name: string) => boolean;
}

/** Reads a command's arguments; `names` are the options that take a value, `flags` those that don't. */
export function readArguments(
  args: readonly string[],
  names: readonly string[],
  flags: readonly string[] = [],
): Arguments {
  const options = Object.fromEntries([
    ...names.map((name) => [name, { type: "string" as const }] as const),
    ...flags.map((name) => [name, { type: "boolean" as const }] as const),
  ]);
  try {
    const { values, positionals } = parseArgs({
      args: [...args],
      options: { ...options, json: { type: "boolean" } },
      allowPositionals: true,
    });
    const given: Readonly<Record<string, unknown>> = values;
    const text = (name: string) => (typeof given[name] === "string" ? (given[name] as string) : null);
    return {
      files: positionals,
      json: given.json === true,
      text,
      flag: (name) => given[name] === true,
      number: (name, fallback) => {
        const typed = text(name);
        if (typed === null) return fallback;
        const number = Number(typed);
        if (typed.trim() === "" || !Number.isFinite(number))
          throw new UsageError(`--${name} wants a number, not “${typed}”`);
        return number;
      },
    };
  } catch (error) {
    if (error instanceof UsageError) throw error;
    throw new UsageError(
      `${(error as Error).message.split("\n")[0]}; known options: ${[...names, ...flags, "json"].map((n) => `--${n}`).join(" ")}`,
    );
  }
}
