import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { demoFiles } from "./scripts/vite/demo.mjs";
import { playerTemplate } from "./scripts/vite/player.mjs";
import { worklets } from "./scripts/vite/worklet.mjs";

const isolation = { "Cross-Origin-Opener-Policy": "same-origin", "Cross-Origin-Embedder-Policy": "require-corp" };

export default defineConfig({
  root: "app",
  plugins: [worklets(), playerTemplate(), demoFiles(), react(), tailwindcss()],
  worker: { format: "es", plugins: () => [] },
  build: {
    outDir: "../dist/app",
    emptyOutDir: true,
    target: "es2022",
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 3000,
  },
  server: { host: "127.0.0.1", port: 4173, strictPort: false, headers: isolation },
});
