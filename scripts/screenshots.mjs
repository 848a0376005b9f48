// `npm run screenshots`: the pictures of docs/screenshots, from the built application.
import { resolve } from "node:path";
import { pathToFileURL } from "node:url";
import { bundle } from "./bundle.mjs";

await import("./build.mjs");
await import(pathToFileURL(resolve(await bundle("e2e/screenshots.ts", ".cache/screenshots.mjs"))).href);
