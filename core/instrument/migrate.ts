import { DOCUMENT_VERSION } from "./instrument";
import { type Checked, checkInstrument } from "./schema";

/** The version that a document from outside says it has; null when it says none. */
export function versionOf(raw: unknown): number | null {
  const version = typeof raw === "object" && raw !== null ? (raw as { version?: unknown }).version : null;
  return typeof version === "number" && Number.isInteger(version) && version >= 1 ? version : null;
}

/** Steps from one version to the next, by the version they begin at. Version 1 is the first. */
const STEPS: Readonly<Record<number, (raw: unknown) => unknown>> = {};

/** Brings a document from outside to this version and checks it. */
export function migrate(raw: unknown): Checked {
  const version = versionOf(raw);
  if (version === null) return { ok: false, problems: ["it doesn't say which version of the document it is"] };
  if (version > DOCUMENT_VERSION) {
    return {
      ok: false,
      problems: [`it was made by a newer Vise (document ${version}; this one reads up to ${DOCUMENT_VERSION})`],
    };
  }
  let current = raw;
  for (let v = version; v < DOCUMENT_VERSION; v++) current = STEPS[v]?.(current) ?? current;
  return checkInstrument(current);
}
