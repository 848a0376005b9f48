// Builds everything that the server serves: kernels, demo data, application, server.
import { build } from "vite";
import "./kernels.mjs";
import "./demo.mjs";
import { bundle } from "./bundle.mjs";

await build({ logLevel: "warn" });
await bundle("server/main.ts", ".cache/server.mjs");
