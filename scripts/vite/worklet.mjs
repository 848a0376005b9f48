// Bundles an AudioWorklet's entry into one classic-looking module: `import url from "./x.worklet.ts?worklet"`.
import { createHash } from "node:crypto";
import { build } from "esbuild";

export async function bundleWorklet(entry) {
  const result = await build({
    entryPoints: [entry],
    bundle: true,
    write: false,
    format: "esm",
    target: "es2022",
    minify: true,
    conditions: ["browser"],
    define: { "import.meta.url": '""' },
    logLevel: "error",
  });
  return result.outputFiles[0].text;
}

export function worklets() {
  let building = false;
  return {
    name: "vise-worklets",
    enforce: "pre",
    configResolved(config) {
      building = config.command === "build";
    },
    async resolveId(id, importer) {
      if (!id.endsWith("?worklet")) return null;
      const found = await this.resolve(id.slice(0, -"?worklet".length), importer);
      return found ? `${found.id}?worklet` : null;
    },
    async load(id) {
      if (!id.endsWith("?worklet")) return null;
      const entry = id.slice(0, -"?worklet".length);
      this.addWatchFile(entry);
      const code = await bundleWorklet(entry);
      if (!building)
        return `export default URL.createObjectURL(new Blob([${JSON.stringify(code)}], { type: "text/javascript" }));`;
      const hash = createHash("sha256").update(code).digest("hex").slice(0, 10);
      const fileName = `assets/worklet-${hash}.js`;
      this.emitFile({ type: "asset", fileName, source: code });
      return `export default ${JSON.stringify(`/${fileName}`)};`;
    },
  };
}
