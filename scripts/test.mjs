// `npm test`: installs what is missing, then format, lint and import rules, types, unit tests, build and first load, browser tests.
// `npm test -- NAME` runs only the unit tests whose path and the browser tests whose name hold that word.
import "./install.mjs";
import { spawnSync } from "node:child_process";
import { mkdirSync, readFileSync, rmSync } from "node:fs";
import { ensurePrograms } from "./programs.mjs";

ensurePrograms("chromium", "sox", "flac");
await import("./kernels.mjs");
mkdirSync(".cache", { recursive: true });

const wanted = process.argv[2] ?? "";
let passed = 0;
let failed = 0;

function step(name, args, count = () => [1, 0]) {
  const began = Date.now();
  console.log(`\n— ${name}`);
  const { status } = spawnSync("node", args, { stdio: "inherit", env: { ...process.env, NODE_NO_WARNINGS: "1" } });
  let [good, bad] = [0, 1];
  try {
    if (status === 0 || count.length > 0) [good, bad] = count(status);
  } catch {
    // A step that left no count has failed as a whole.
  }
  if (status !== 0 && bad === 0) bad = 1;
  passed += good;
  failed += bad;
  console.log(`— ${name}: ${bad === 0 ? "good" : "FAILED"}, ${((Date.now() - began) / 1000).toFixed(0)} s`);
}

const report = (file) => JSON.parse(readFileSync(file, "utf8"));
rmSync(".cache/unit.json", { force: true });
rmSync(".cache/e2e.json", { force: true });

if (wanted === "") {
  step("import rules as their tables say", ["scripts/import-rules.mjs", "--check"]);
  step("format, lint, import rules", ["node_modules/@biomejs/biome/bin/biome", "check", "--error-on-warnings", "."]);
  step("words that we gave up", ["scripts/strings.mjs", "--check"]);
  step("types", ["scripts/types.mjs"]);
}
step(
  "unit tests",
  [
    "--experimental-vm-modules",
    "node_modules/jest/bin/jest.js",
    "--silent=false",
    ...(wanted === "" ? [] : ["--passWithNoTests", wanted]),
    "--json",
    "--outputFile=.cache/unit.json",
  ],
  (_status) => {
    const { numPassedTests, numFailedTests, numFailedTestSuites } = report(".cache/unit.json");
    return [numPassedTests, numFailedTests || numFailedTestSuites];
  },
);
step("build", ["scripts/build.mjs"]);
if (wanted === "") step("first load", ["scripts/first-load.mjs"]);
step("browser tests", ["scripts/e2e.mjs", ...(wanted === "" ? [] : [wanted])], (_status) => {
  const counts = report(".cache/e2e.json");
  return [counts.passed, counts.failed];
});

console.log(`\n${passed} passed, ${failed} failed`);
process.exitCode = failed > 0 ? 1 : 0;
