// The page's worker: keeps the application's own files, so that the workshop opens while the server is away.
import { answerOf, keptUnder } from "./answer";

/** Written in by the build: the addresses of all the application's files, and a name that changes with their contents. */
declare const FILES: readonly string[];
declare const EDITION: string;

/** As much of a service worker's scope as is used; its own library can't stand beside the page's. */
interface Lasting extends Event {
  waitUntil(work: Promise<unknown>): void;
}
interface Fetching extends Event {
  readonly request: Request;
  respondWith(reply: Promise<Response>): void;
}
interface Scope {
  readonly location: Location;
  readonly clients: { claim(): Promise<void> };
  skipWaiting(): Promise<void>;
  addEventListener(type: "install" | "activate", run: (event: Lasting) => void): void;
  addEventListener(type: "fetch", run: (event: Fetching) => void): void;
}
const scope = globalThis as unknown as Scope;

scope.addEventListener("install", (event) => {
  const keep = async () => {
    const edition = await caches.open(EDITION);
    try {
      await edition.addAll(FILES);
    } catch (error) {
      await caches.delete(EDITION);
      throw error;
    }
    await scope.skipWaiting();
  };
  event.waitUntil(keep());
});

// Tabs that are still open with the edition before find their files in it; what is older goes.
scope.addEventListener("activate", (event) => {
  const tidy = async () => {
    const before = (await caches.keys()).filter((name) => name !== EDITION);
    for (const name of before.slice(0, -1)) await caches.delete(name);
    await scope.clients.claim();
  };
  event.waitUntil(tidy());
});

/** What is kept: this edition's first, then the one's before. */
async function kept(address: string): Promise<Response | undefined> {
  const edition = await caches.open(EDITION);
  return (await edition.match(address)) ?? (await caches.match(address));
}

async function fromServer(request: Request): Promise<Response> {
  const address = keptUnder(request);
  try {
    const reply = await fetch(request);
    if (reply.status < 500) return reply;
    return (await kept(address)) ?? reply;
  } catch (error) {
    const reply = await kept(address);
    if (!reply) throw error;
    return reply;
  }
}

scope.addEventListener("fetch", (event) => {
  const { request } = event;
  const answer = answerOf(request, scope.location.origin);
  if (answer === "kept-first") event.respondWith(kept(keptUnder(request)).then((reply) => reply ?? fetch(request)));
  if (answer === "server-first") event.respondWith(fromServer(request));
});
