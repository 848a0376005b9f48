// `npm run walk [-- seed steps]`: random actions over all stations of the built application.
import { resolve } from "node:path";
import { pathToFileURL } from "node:url";
import { bundle } from "./bundle.mjs";

await import(pathToFileURL(resolve(await bundle("e2e/walk.ts", ".cache/walk.mjs"))).href);
