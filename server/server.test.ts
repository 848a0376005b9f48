import { mkdirSync, mkdtempSync, writeFileSync } from "node:fs";
import { type IncomingHttpHeaders, request } from "node:http";
import type { AddressInfo } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, expect, test } from "@jest/globals";
import type { FastifyInstance } from "fastify";
import { makeServer } from "./app";

let server: FastifyInstance;

/** Asks for a path as it is given: fetch would tidy it up first. */
function ask(path: string): Promise<{ statusCode: number; headers: IncomingHttpHeaders; body: string }> {
  const { port } = server.server.address() as AddressInfo;
  return new Promise((resolve, reject) => {
    const sent = request({ host: "127.0.0.1", port, path }, (reply) => {
      let body = "";
      reply.setEncoding("utf8");
      reply.on("data", (part: string) => {
        body += part;
      });
      reply.on("end", () => resolve({ statusCode: reply.statusCode ?? 0, headers: reply.headers, body }));
    });
    sent.on("error", reject);
    sent.end();
  });
}

beforeAll(async () => {
  const folder = mkdtempSync(join(tmpdir(), "vise-server-"));
  mkdirSync(join(folder, "app"));
  mkdirSync(join(folder, "demo"));
  writeFileSync(join(folder, "app/index.html"), "<p>the application</p>");
  writeFileSync(join(folder, "demo/spokes.wav"), "RIFF");
  writeFileSync(join(folder, "secret.txt"), "classified");
  server = await makeServer({ app: join(folder, "app"), demo: join(folder, "demo") });
  await server.listen({ host: "127.0.0.1", port: 0 });
});
afterAll(() => server.close());

test("every station's address is answered by the application, isolated and under a strict policy", async () => {
  for (const url of ["/", "/map", "/library"]) {
    const reply = await ask(url);
    expect(reply.statusCode).toBe(200);
    expect(reply.body).toContain("the application");
    expect(reply.headers["cross-origin-opener-policy"]).toBe("same-origin");
    expect(reply.headers["cross-origin-embedder-policy"]).toBe("require-corp");
    const policy = String(reply.headers["content-security-policy"]);
    expect(policy).toContain("default-src 'self'");
    expect(policy).not.toMatch(/https?:|unsafe-eval'(?<!wasm-unsafe-eval')|\*/);
  }
});

test("demo data is served, what is missing is told, nothing outside is reached", async () => {
  expect((await ask("/demo/spokes.wav")).body).toBe("RIFF");
  expect((await ask("/demo/none.wav")).statusCode).toBe(404);
  expect((await ask("/assets/none.js")).statusCode).toBe(404);
  for (const url of ["/../secret.txt", "/demo/..%2f..%2fsecret.txt", "/demo/%2e%2e/secret.txt"]) {
    expect((await ask(url)).body).not.toContain("classified");
  }
});
