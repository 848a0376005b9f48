import type { FastifyInstance } from "fastify";
import { makeServer } from "../server/app";

/** Serves the built application on a free port of loopback. */
export async function serve(): Promise<{ server: FastifyInstance; address: string }> {
  const server = await makeServer({ app: "dist/app", demo: "dist/demo" });
  const address = await server.listen({ host: "127.0.0.1", port: 0 });
  return { server, address };
}
