// Installs programs from Debian's packages where they are missing: the browser for the tests, and what others wrote to read our files.
import { execSync } from "node:child_process";
import { existsSync } from "node:fs";

const PLACES = {
  chromium: process.env.CHROMIUM ?? "/usr/bin/chromium",
  sox: "/usr/bin/sox",
  flac: "/usr/bin/flac",
  "aubio-tools": "/usr/bin/aubiopitch",
};

export function ensurePrograms(...names) {
  const missing = names.filter((name) => !existsSync(PLACES[name]));
  if (missing.length === 0) return;
  console.log(`Installing ${missing.join(", ")} from Debian's packages …`);
  const run = (command) =>
    execSync(command, {
      stdio: ["ignore", "ignore", "inherit"],
      env: { ...process.env, DEBIAN_FRONTEND: "noninteractive" },
    });
  const sudo = process.getuid?.() === 0 ? "" : "sudo ";
  run(`${sudo}apt-get update -qq`);
  run(`${sudo}apt-get install -y -qq --no-install-recommends ${missing.join(" ")}`);
}
