// Serves dist/demo under /demo while developing, as the server does afterwards.
import { createReadStream, existsSync } from "node:fs";
import { basename } from "node:path";

export function demoFiles() {
  return {
    name: "vise-demo",
    configureServer(server) {
      server.middlewares.use("/demo", (request, response, next) => {
        const file = `dist/demo/${basename(request.url ?? "")}`;
        if (!existsSync(file)) return next();
        createReadStream(file).pipe(response);
      });
    },
  };
}
