/** How a request is answered: from the server first, from what is kept first, or as if nothing were between. */
export type Answer = "server-first" | "kept-first" | "not-ours";

/** What the worker must know of a request. */
interface Asked {
  readonly method: string;
  readonly url: string;
  /** `navigate` where a tab goes to an address. */
  readonly mode: string;
}

/**
 * How `asked` is answered by the page's worker at `origin`.
 *
 * Addresses that tabs go to are the server's as long as it answers, so that what is newer is seen at once; files under
 * `/assets/` carry their contents in their names and never change; the demo data are fetched once and kept elsewhere.
 */
export function answerOf(asked: Asked, origin: string): Answer {
  const url = new URL(asked.url);
  if (asked.method !== "GET" || url.protocol === "blob:" || url.origin !== origin) return "not-ours";
  if (url.pathname.startsWith("/demo/")) return "not-ours";
  if (url.pathname.startsWith("/assets/")) return "kept-first";
  return "server-first";
}

/** Where what `asked` wants is kept: every station's address is the application's one page. */
export function keptUnder(asked: Asked): string {
  return asked.mode === "navigate" ? "/" : new URL(asked.url).pathname;
}
