import { mkdtempSync, mkdirSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, expect, test } from "@jest/globals";
import type { FastifyInstance } from "fastify";
import { makeServer } from "./app";

let server: FastifyInstance;

beforeAll(async () => {
  const folder = mkdtempSync(join(tmpdir(), "vise-server-"));
  mkdirSync(join(folder, "app"));
  mkdirSync(join(folder, "demo"));
  writeFileSync(join(folder, "app/index.html"), "<p>the application</p>");
  writeFileSync(join(folder, "demo/spokes.wav"), "RIFF");
  writeFileSync(join(folder, "secret.txt"), "secret");
  server = await makeServer({ app: join(folder, "app"), demo: join(folder, "demo") });
});
afterAll(() => server.close());

test("every station's address is answered by the application, isolated and under a strict policy", async () => {
  for (const url of ["/", "/map", "/library"]) {
    const reply = await server.inject(url);
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
  expect((await server.inject("/demo/spokes.wav")).body).toBe("RIFF");
  expect((await server.inject("/demo/none.wav")).statusCode).toBe(404);
  expect((await server.inject("/assets/none.js")).statusCode).toBe(404);
  for (const url of ["/../secret.txt", "/demo/..%2f..%2fsecret.txt", "/demo/%2e%2e/secret.txt"]) {
    expect((await server.inject(url)).body).not.toContain("secret\n");
    expect((await server.inject(url)).body).not.toBe("secret");
  }
});
