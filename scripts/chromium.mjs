// Makes sure that Debian's Chromium is there for the browser tests.
import { execSync } from "node:child_process";
import { existsSync } from "node:fs";

if (!existsSync(process.env.CHROMIUM ?? "/usr/bin/chromium")) {
  console.log("Installing Chromium from Debian's packages …");
  const run = (command) =>
    execSync(command, {
      stdio: ["ignore", "ignore", "inherit"],
      env: { ...process.env, DEBIAN_FRONTEND: "noninteractive" },
    });
  const sudo = process.getuid?.() === 0 ? "" : "sudo ";
  run(`${sudo}apt-get update -qq`);
  run(`${sudo}apt-get install -y -qq --no-install-recommends chromium`);
}
