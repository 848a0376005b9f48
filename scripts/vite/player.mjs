// Builds the single-file player: one HTML page with everything inside but the instrument, which the app puts in.
import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { build } from "esbuild";
import { bundleWorklet } from "./worklet.mjs";

const require = createRequire(import.meta.url);
const base64 = (path) => readFileSync(path).toString("base64");
// A script element ends at this text, wherever it stands.
const inert = (code) => code.replaceAll("</script", "<\\/script");

async function bundleScript(entry) {
  const { outputFiles } = await build({
    entryPoints: [entry],
    bundle: true,
    write: false,
    format: "iife",
    target: "es2022",
    minify: true,
    jsx: "automatic",
    conditions: ["browser"],
    define: { "process.env.NODE_ENV": '"production"', "import.meta.url": '""' },
    logLevel: "error",
  });
  return outputFiles[0].text;
}

export async function buildPlayer() {
  const worklet = await bundleWorklet("app/audio/engine.worklet.ts");
  const page = await bundleScript("app/player/main.tsx");
  const worker = await bundleScript("app/player/player.worker.ts");
  const font = base64(
    require.resolve("@fontsource-variable/instrument-sans/files/instrument-sans-latin-wght-normal.woff2"),
  );
  const mono = base64(
    require.resolve("@fontsource-variable/spline-sans-mono/files/spline-sans-mono-latin-wght-normal.woff2"),
  );
  const display = base64(
    require.resolve("@fontsource-variable/bricolage-grotesque/files/bricolage-grotesque-latin-wght-normal.woff2"),
  );
  const css = `${readFileSync("app/tokens.css", "utf8")}
@font-face{font-family:"Instrument Sans Variable";font-weight:400 700;src:url(data:font/woff2;base64,${font}) format("woff2")}
@font-face{font-family:"Bricolage Grotesque Variable";font-weight:200 800;src:url(data:font/woff2;base64,${display}) format("woff2")}
@font-face{font-family:"Spline Sans Mono Variable";font-weight:300 700;src:url(data:font/woff2;base64,${mono}) format("woff2")}
${readFileSync("app/player/player.css", "utf8")}`;
  const quickjs = base64(require.resolve("@jitl/quickjs-wasmfile-release-sync/wasm"));
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<meta http-equiv="Content-Security-Policy" content="default-src 'none'; script-src 'unsafe-inline' 'wasm-unsafe-eval' data: blob:; style-src 'unsafe-inline'; font-src data:; img-src data:; connect-src data:; worker-src data: blob:; media-src data: blob:">
<title>%TITLE%</title>
<style>${css}</style>
</head>
<body>
<div id="player"></div>
<script type="application/octet-stream" id="vise-package">%PACKAGE%</script>
<script type="application/octet-stream" id="vise-worklet">${Buffer.from(worklet).toString("base64")}</script>
<script type="application/octet-stream" id="vise-rules">${quickjs}</script>
<script type="application/octet-stream" id="vise-worker">${Buffer.from(worker).toString("base64")}</script>
<script>${inert(page)}</script>
</body>
</html>
`;
}

export function playerTemplate() {
  return {
    name: "vise-player",
    configureServer(server) {
      server.middlewares.use("/player-template.html", async (_request, response) => {
        response.setHeader("content-type", "text/plain; charset=utf-8");
        response.end(await buildPlayer());
      });
    },
    async generateBundle() {
      this.emitFile({ type: "asset", fileName: "player-template.html", source: await buildPlayer() });
    },
  };
}
