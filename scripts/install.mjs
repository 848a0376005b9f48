// Installs the packages when they are missing or older than the lock file, which pins them for every platform. By `npm install`, which keeps what
// is there already, where `npm ci` would begin anew.
import { execSync } from "node:child_process";
import { statSync } from "node:fs";

const at = (path) => statSync(path, { throwIfNoEntry: false })?.mtimeMs ?? 0;
if (at("node_modules/.package-lock.json") < at("package-lock.json")) {
  console.log("Installing packages …");
  execSync("npm install --no-audit --no-fund --loglevel=error", { stdio: "inherit" });
}
