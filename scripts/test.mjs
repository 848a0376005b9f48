// `npm test`: installs what is missing, then format, lint and import rules, types, unit tests, build, browser tests.
import "./install.mjs";
import { spawnSync } from "node:child_process";
import { mkdirSync, readFileSync, rmSync } from "node:fs";
import { ensurePrograms } from "./programs.mjs";

ensurePrograms("chromium", "sox", "flac");
await import("./kernels.mjs");
mkdirSync(".cache", { recursive: true });

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

step("format, lint, import rules", ["node_modules/@biomejs/biome/bin/biome", "check", "--error-on-warnings", "."]);
step("types", ["scripts/types.mjs"]);
step(
  "unit tests",
  [
    "--experimental-vm-modules",
    "node_modules/jest/bin/jest.js",
    "--silent=false",
    "--json",
    "--outputFile=.cache/unit.json",
  ],
  (_status) => {
    const { numPassedTests, numFailedTests, numFailedTestSuites } = report(".cache/unit.json");
    return [numPassedTests, numFailedTests || numFailedTestSuites];
  },
);
step("build", ["scripts/build.mjs"]);
step("browser tests", ["scripts/e2e.mjs"], (_status) => {
  const counts = report(".cache/e2e.json");
  return [counts.passed, counts.failed];
});

console.log(`\n${passed} passed, ${failed} failed`);
process.exitCode = failed > 0 ? 1 : 0;
