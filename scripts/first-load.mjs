// Holds what the application's first page loads, compressed: what no station needs at once is fetched when it is.
import { readFileSync } from "node:fs";
import { gzipSync } from "node:zlib";

const HELD = 350;
const page = readFileSync("dist/app/index.html", "utf8");
const files = [...page.matchAll(/(?:src|href)="\/(assets\/[^"]+\.(?:js|css))"/g)].map(([, file]) => file);
const sizes = files.map((file) => [gzipSync(readFileSync(`dist/app/${file}`)).length / 1000, file]);
const sum = sizes.reduce((total, [size]) => total + size, 0);
console.log(`The first load is ${sum.toFixed(1)} kB gzip of ${HELD}, in ${files.length} files.`);
if (files.length === 0 || sum > HELD) {
  for (const [size, file] of sizes.sort(([a], [b]) => b - a)) console.log(`${size.toFixed(1).padStart(7)} kB  ${file}`);
  process.exitCode = 1;
}
