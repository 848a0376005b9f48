// Runs the browser tests against the built application; a word after it picks those whose name holds it.
import { resolve } from "node:path";
import { pathToFileURL } from "node:url";
import { bundle } from "./bundle.mjs";

await import(pathToFileURL(resolve(await bundle("e2e/run.ts", ".cache/e2e.mjs"))).href);
