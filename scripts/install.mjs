// Installs the packages when they are missing or older than the lock file.
import { execSync } from "node:child_process";
import { statSync } from "node:fs";

const at = (path) => statSync(path, { throwIfNoEntry: false })?.mtimeMs ?? 0;
if (at("node_modules/.package-lock.json") < at("package-lock.json")) {
  console.log("Installing packages …");
  execSync("npm ci --no-audit --no-fund --loglevel=error", { stdio: "inherit" });
}
