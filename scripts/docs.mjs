// Writes docs/instrument.schema.json from the registry of parameters.

import { writeFileSync } from "node:fs";
import { resolve } from "node:path";
import { pathToFileURL } from "node:url";
import { bundle } from "./bundle.mjs";

const { instrumentJsonSchema } = await import(
  pathToFileURL(resolve(await bundle("core/formats/index.ts", ".cache/formats.mjs"))).href
);
writeFileSync("docs/instrument.schema.json", `${JSON.stringify(instrumentJsonSchema(), null, 2)}\n`);
