import { resolve } from "node:path";
import fastifyStatic from "@fastify/static";
import fastify, { type FastifyInstance } from "fastify";
import { HEADERS } from "./headers";

interface ServerOptions {
  /** Folder of the built application. */
  readonly app: string;
  /** Folder of the demo data. */
  readonly demo: string;
}

/** The server: the application under /, the demo data under /demo, and every station's address answered by the application. */
export async function makeServer({ app, demo }: ServerOptions): Promise<FastifyInstance> {
  const server = fastify({ logger: false });
  server.addHook("onSend", async (request, reply) => {
    const lasting = request.url.startsWith("/assets/") && reply.statusCode === 200;
    reply.headers({ ...HEADERS, "Cache-Control": lasting ? "public, max-age=31536000, immutable" : "no-cache" });
  });
  await server.register(fastifyStatic, { root: resolve(demo), prefix: "/demo/", decorateReply: false });
  await server.register(fastifyStatic, { root: resolve(app) });
  server.setNotFoundHandler((request, reply) => {
    const page =
      request.method === "GET" && !request.url.startsWith("/demo/") && !/\.\w+$/.test(request.url.split("?")[0] ?? "");
    if (page) return reply.sendFile("index.html");
    return reply.code(404).send({ error: "not-found", message: `there is nothing at ${request.url}` });
  });
  return server;
}
