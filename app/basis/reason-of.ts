/** What a failure that a browser tells by a name, mostly without a word more, means to people. */
const TOLD: Readonly<Record<string, string>> = {
  QuotaExceededError:
    "the browser’s storage is full: remove in the library what isn’t needed, or make room on the disk",
  NotReadableError: "it can’t be read any more: it may have been moved, changed, or opened by another program",
  NotFoundError: "it isn’t there any more",
  NotAllowedError: "the browser doesn’t allow it",
  SecurityError: "the browser doesn’t allow it",
  AbortError: "it was broken off",
  TimeoutError: "it took too long",
  UnknownError: "the browser’s storage has failed: load the page again",
};

/** Those that say something of themselves only for programs; the others may know better. */
const ALWAYS = new Set(["QuotaExceededError", "NotReadableError", "NotAllowedError", "SecurityError"]);

/** Why something has failed, as the end of a sentence without its full stop. An error that says nothing of itself is named. */
export function reasonOf(error: unknown): string {
  const { name, message } =
    typeof error === "object" ? ((error ?? {}) as Partial<Error>) : { name: "", message: String(error ?? "") };
  const said = (message ?? "").trim().replace(/\.$/, "");
  // A library may have made a text of it.
  const kind = name && name !== "Error" ? name : (/^(\w+Error)\b/.exec(said)?.[1] ?? "");
  if (ALWAYS.has(kind) || said === "" || said === kind)
    return TOLD[kind] ?? (said || name || "the browser doesn’t say why");
  return said;
}
