// Bundles a TypeScript entry for Node with esbuild; packages stay outside.
import { renameSync } from "node:fs";
import { build } from "esbuild";

/** Writes the bundle beside its place and moves it there whole: two programs started at once never read half of it. */
export async function bundle(entry, outfile) {
  const unfinished = `${outfile}.${process.pid}`;
  await build({
    entryPoints: [entry],
    outfile: unfinished,
    bundle: true,
    platform: "node",
    format: "esm",
    target: "node20",
    packages: "external",
    sourcemap: "inline",
    logLevel: "error",
  });
  renameSync(unfinished, outfile);
  return outfile;
}
