// Installs the packages when they are missing or older than the lock file. Not by `npm ci`: the lock file that npm writes without download
// addresses leaves other platforms' optional packages out, and `npm ci` refuses such a file.
import { execSync } from "node:child_process";
import { statSync } from "node:fs";

const at = (path) => statSync(path, { throwIfNoEntry: false })?.mtimeMs ?? 0;
if (at("node_modules/.package-lock.json") < at("package-lock.json")) {
  console.log("Installing packages …");
  execSync("npm install --no-audit --no-fund --loglevel=error", { stdio: "inherit" });
}
