// Builds everything that the server serves: kernels, demo data, application, server.
import { build } from "vite";
import "./kernels.mjs";
import "./demo.mjs";
import { bundle } from "./bundle.mjs";
import { writeOffline } from "./offline.mjs";

await build({ logLevel: "warn" });
await writeOffline();
await bundle("server/main.ts", ".cache/server.mjs");
