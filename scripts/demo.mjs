// Makes the demo data in dist/demo, unless it is newer than what it is made from.
import { execFileSync } from "node:child_process";
import { readdirSync, statSync } from "node:fs";
import { join } from "node:path";
import "./kernels.mjs";
import { bundle } from "./bundle.mjs";

const files = (folder) =>
  readdirSync(folder, { withFileTypes: true, recursive: true })
    .filter((e) => e.isFile())
    .map((e) => join(e.parentPath ?? e.path, e.name));
const sources = [...files("demo"), ...files("core")].filter((f) => f.endsWith(".ts") && !f.endsWith(".test.ts"));
const newest = Math.max(...sources.map((f) => statSync(f).mtimeMs));
const built = statSync("dist/demo/index.json", { throwIfNoEntry: false })?.mtimeMs ?? 0;
if (built < newest) {
  const script = await bundle("demo/write.ts", ".cache/demo.mjs");
  execFileSync("node", [script, "dist/demo"], { stdio: "inherit" });
}
