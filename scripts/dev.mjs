// `npm run dev`: the application with hot reload.
await import("./install.mjs");
await import("./kernels.mjs");
await import("./demo.mjs");
const { createServer } = await import("vite");
const server = await createServer();
await server.listen();
server.printUrls();
