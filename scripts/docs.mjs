// Writes docs/instrument.schema.json and docs/reference.md from the registry of parameters.

import { writeFileSync } from "node:fs";
import { resolve } from "node:path";
import { pathToFileURL } from "node:url";
import { bundle } from "./bundle.mjs";

const load = async (from, to) => import(pathToFileURL(resolve(await bundle(from, to))).href);

const { instrumentJsonSchema } = await load("core/formats/index.ts", ".cache/formats.mjs");
writeFileSync("docs/instrument.schema.json", `${JSON.stringify(instrumentJsonSchema(), null, 2)}\n`);

const { reference } = await load("core/units/index.ts", ".cache/units.mjs");
const row = (l) =>
  `| ${l.label} | ${l.help} | ${l.range} | ${l.initial} | ${l.modulated ? "yes" : ""} | \`${l.id.split("/").slice(1).join("/")}\` |`;
const units = reference().map(({ kind, label, help, where, lines }) =>
  [
    `## ${label}`,
    "",
    `${help}${where === "" ? "" : ` Where: ${where}.`} Kind: \`${kind}\`.`,
    "",
    "| parameter | what it does | range | initial | modulated | id |",
    "| --- | --- | --- | --- | --- | --- |",
    ...lines.map(row),
    "",
  ].join("\n"),
);
writeFileSync(
  "docs/reference.md",
  `# Every unit and parameter\n\nWritten by \`npm run docs\` from the registry (\`core/units\`); in the application F1 on a control opens its line.\n\n${units.join("\n")}`,
);
