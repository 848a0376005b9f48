// Writes docs/instrument.schema.json, docs/reference.md and the lists of docs/format.md from the registry of parameters.

import { readFileSync, writeFileSync } from "node:fs";
import { resolve } from "node:path";
import { pathToFileURL } from "node:url";
import { bundle } from "./bundle.mjs";

const load = async (from, to) => import(pathToFileURL(resolve(await bundle(from, to))).href);

const { instrumentJsonSchema } = await load("core/formats/index.ts", ".cache/formats.mjs");
writeFileSync("docs/instrument.schema.json", `${JSON.stringify(instrumentJsonSchema(), null, 2)}\n`);

const { referenceText } = await load("core/units/reference.ts", ".cache/reference.mjs");
writeFileSync("docs/reference.md", referenceText());

const { withLists } = await load("core/formats/format-lists.ts", ".cache/format-lists.mjs");
writeFileSync("docs/format.md", withLists(readFileSync("docs/format.md", "utf8")));
