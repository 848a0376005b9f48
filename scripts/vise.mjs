// `npm run -s vise -- <command>`: the core from a terminal.

import { resolve } from "node:path";
import { pathToFileURL } from "node:url";
import "./kernels.mjs";
import { bundle } from "./bundle.mjs";

await import(pathToFileURL(resolve(await bundle("cli/main.ts", ".cache/cli.mjs"))).href);
