// Writes the import rules into biome.json from the two tables below: `node scripts/import-rules.mjs` (with --check only looks).
import { execFileSync } from "node:child_process";
import { readFileSync, writeFileSync } from "node:fs";

/** Parts of core and what each may import besides itself. */
const CORE = {
  audio: [],
  params: ["audio"],
  dsp: ["audio"],
  units: ["params", "audio", "dsp"],
  instrument: ["params", "audio", "units"],
  face: ["params", "audio", "dsp", "units", "instrument"],
  analysis: ["audio"],
  looping: ["params", "audio", "dsp", "instrument", "analysis"],
  mapping: ["params", "audio", "units", "instrument", "analysis"],
  engine: ["params", "audio", "dsp", "units", "instrument"],
  formats: ["params", "audio", "dsp", "units", "instrument", "mapping", "analysis"],
  rules: ["audio", "engine"],
};
/** Folders of app from the ground up: each may import what stands before it. */
const APP = ["basis", "storage", "audio", "workers", "state", "widgets", "face", "units", "shell", "stations"];
const STATIONS = ["take", "cut", "map", "loop", "sound", "motion", "face", "rules", "ship", "library"];
/** Everything beside core: nothing in core imports it. */
const OUTSIDE = [
  "node:*",
  "react",
  "react-*",
  "**/app/**",
  "**/server/**",
  "**/cli/**",
  "**/demo/**",
  "**/bench/**",
  "**/e2e/**",
];

const rule = (patterns) => ({
  style: { noRestrictedImports: { level: "error", options: { patterns } } },
});

const core = Object.entries(CORE).map(([part, may]) => {
  const closed = Object.keys(CORE).filter((p) => p !== part && !may.includes(p));
  // Tests may use anything of core.
  return {
    includes: [`core/${part}/**`, "!**/*.test.ts", "!**/*.test.tsx"],
    linter: {
      rules: rule([
        { group: OUTSIDE, message: "core imports nothing outside core" },
        {
          group: closed.flatMap((p) => [`**/${p}`, `**/${p}/**`]),
          message: `core/${part} may not import these (docs/architecture.md)`,
        },
      ]),
    },
  };
});

const BEYOND = {
  group: ["node:*", "**/server/**", "**/cli/**", "**/demo/**", "**/bench/**", "**/e2e/**"],
  message: "the app imports only core and itself",
};

/** What stands beside the folders, such as the router. */
const root = { includes: ["app/*"], linter: { rules: rule([BEYOND]) } };

const app = [...APP, "player"].map((folder, i) => ({
  includes: [`app/${folder}/**`, "!**/*.test.ts", "!**/*.test.tsx"],
  linter: {
    rules: rule([
      BEYOND,
      {
        group: [
          "**/stations/*",
          "**/stations/*/**",
          ...(folder === "stations" ? STATIONS.map((s) => `../${s}/**`) : []),
        ],
        message: "nobody imports a station but the router",
      },
      ...(folder === "player"
        ? []
        : [
            {
              group: [...APP.slice(i + 1), "player"].flatMap((f) => [`../${f}/**`, `../../${f}/**`]),
              message: `app/${folder} may not import what stands above it (docs/architecture.md)`,
            },
          ]),
    ]),
  },
}));

const config = JSON.parse(readFileSync("biome.json", "utf8"));
const kept = config.overrides.filter((o) => !o.includes.some((path) => /^(core|app)\/([^/]+\/)?\*+$/.test(path)));
const next = { ...config, overrides: [...core, root, ...app, ...kept] };
const biome = "node_modules/@biomejs/biome/bin/biome";
const text = execFileSync("node", [biome, "format", "--stdin-file-path=biome.json"], {
  input: JSON.stringify(next),
  encoding: "utf8",
});
if (process.argv.includes("--check")) {
  if (text !== readFileSync("biome.json", "utf8")) {
    console.error("biome.json isn't what scripts/import-rules.mjs makes of its tables: run it");
    process.exit(1);
  }
} else writeFileSync("biome.json", text);
