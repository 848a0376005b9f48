// Type-checks each part with the libraries that it may use.
import { spawnSync } from "node:child_process";

const failed = ["core", "app", "."].filter(
  (project) => spawnSync("node", ["node_modules/typescript/bin/tsc", "-p", project], { stdio: "inherit" }).status !== 0,
);
process.exitCode = failed.length;
