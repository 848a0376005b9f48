// `npm run bench [-- name]`: prints one JSON line for each figure of design §11 that can be measured so far.
import "./install.mjs";
import { ensurePrograms } from "./programs.mjs";

ensurePrograms("chromium", "aubio-tools");
await import("./kernels.mjs");
// The live figures are measured in the built application's page.
const { existsSync } = await import("node:fs");
if (!existsSync("dist/app/index.html")) await import("./build.mjs");
const { resolve } = await import("node:path");
const { pathToFileURL } = await import("node:url");
const { bundle } = await import("./bundle.mjs");
await import(pathToFileURL(resolve(await bundle("bench/main.ts", ".cache/bench.mjs"))).href);
