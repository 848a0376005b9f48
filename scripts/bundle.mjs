// Bundles a TypeScript entry for Node with esbuild; packages stay outside.
import { build } from "esbuild";

export async function bundle(entry, outfile) {
  await build({
    entryPoints: [entry],
    outfile,
    bundle: true,
    platform: "node",
    format: "esm",
    target: "node20",
    packages: "external",
    sourcemap: "inline",
    logLevel: "error",
  });
  return outfile;
}
