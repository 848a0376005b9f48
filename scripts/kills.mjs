// `npm run kills [-- count]`: kills the page of the built application at random moments.
import { resolve } from "node:path";
import { pathToFileURL } from "node:url";
import { bundle } from "./bundle.mjs";

await import(pathToFileURL(resolve(await bundle("e2e/kills.ts", ".cache/kills.mjs"))).href);
