import { execFile } from "node:child_process";
import { mkdirSync } from "node:fs";
import { resolve } from "node:path";
import { pathToFileURL } from "node:url";
import { promisify } from "node:util";

/** What a program that has ended left behind. */
export interface Ended {
  readonly code: number;
  readonly out: string;
  readonly err: string;
}

/** Runs Node with some arguments, for tests. */
export async function runNode(args: readonly string[]): Promise<Ended> {
  try {
    const { stdout, stderr } = await promisify(execFile)("node", args);
    return { code: 0, out: stdout, err: stderr };
  } catch (error) {
    const failed = error as { code: number; stdout: string; stderr: string };
    return { code: failed.code, out: failed.stdout, err: failed.stderr };
  }
}

let bundled: Promise<string> | null = null;

/** The command line as a program: bundled once for a test file, which is most of what a call would take. */
function program(): Promise<string> {
  const { href } = pathToFileURL(resolve("scripts/bundle.mjs"));
  const out = `.cache/cli-${process.pid}.mjs`;
  mkdirSync(".cache", { recursive: true });
  bundled ??= runNode([
    "--input-type=module",
    "--eval",
    `import { bundle } from ${JSON.stringify(href)}; await bundle("cli/main.ts", ${JSON.stringify(out)});`,
  ]).then(({ code, err }) => {
    if (code !== 0) throw new Error(err);
    return out;
  });
  return bundled;
}

/** Runs `vise` with some arguments, for tests. */
export const runVise = async (...args: readonly string[]): Promise<Ended> => runNode([await program(), ...args]);
