// Writes the page's worker, which keeps every file of the built application for when the server is away.
import { createHash } from "node:crypto";
import { readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { join, relative } from "node:path";
import { build } from "esbuild";

const ROOT = "dist/app";

function* filesIn(folder) {
  for (const name of readdirSync(folder).sort()) {
    const path = join(folder, name);
    if (statSync(path).isDirectory()) yield* filesIn(path);
    else yield path;
  }
}

export async function writeOffline() {
  const hash = createHash("sha256");
  const files = [];
  for (const path of filesIn(ROOT)) {
    const address = `/${relative(ROOT, path)}`;
    if (address === "/sw.js") continue;
    hash.update(address).update(readFileSync(path));
    files.push(address === "/index.html" ? "/" : address);
  }
  const { outputFiles } = await build({
    entryPoints: ["app/offline/offline.sw.ts"],
    bundle: true,
    write: false,
    format: "iife",
    target: "es2022",
    minify: true,
    define: { FILES: JSON.stringify(files), EDITION: JSON.stringify(`vise-${hash.digest("hex").slice(0, 12)}`) },
    logLevel: "error",
  });
  writeFileSync(join(ROOT, "sw.js"), outputFiles[0].text);
}
