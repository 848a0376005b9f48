// `npm start`: installs what is missing, builds what has changed, serves.
import "./install.mjs";
import { readdirSync, statSync } from "node:fs";
import { join, resolve } from "node:path";
import { pathToFileURL } from "node:url";

const newest = (folder) =>
  Math.max(
    0,
    ...readdirSync(folder, { withFileTypes: true, recursive: true })
      .filter((e) => e.isFile())
      .map((e) => statSync(join(e.parentPath ?? e.path, e.name)).mtimeMs),
  );
const sources = Math.max(
  ...["app", "core", "demo", "server", "scripts"].map(newest),
  statSync("package-lock.json").mtimeMs,
);
const built = statSync(".cache/server.mjs", { throwIfNoEntry: false })?.mtimeMs ?? 0;
if (built < sources) {
  console.log("Building …");
  await import("./build.mjs");
}
await import(pathToFileURL(resolve(".cache/server.mjs")).href);
