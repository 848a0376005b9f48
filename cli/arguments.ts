import { parseArgs } from "node:util";

/** A mistake of whoever typed the command: one line that says what, where and what to do. */
export class UsageError extends Error {}

export interface Arguments {
  readonly files: readonly string[];
  readonly json: boolean;
  readonly text: (name: string) => string | null;
  readonly number: (name: string, fallback: number) => number;
}

/** Reads a command's arguments; `names` are the options that take a value. */
export function readArguments(args: readonly string[], names: readonly string[]): Arguments {
  const options = Object.fromEntries(names.map((name) => [name, { type: "string" as const }]));
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
      `${(error as Error).message.split("\n")[0]}; known options: ${[...names, "json"].map((n) => `--${n}`).join(" ")}`,
    );
  }
}
