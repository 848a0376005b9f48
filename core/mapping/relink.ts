import type { Sample } from "../instrument";
import { withoutExtension } from "./names";

/** A sample that was found again, and by what. */
export interface Relinked {
  readonly missing: Sample;
  readonly found: Sample;
  /** `content`: the very same sound. `path`, `name`: it is called so, and as long where a length is known. `length`: no other is as long. */
  readonly by: "content" | "path" | "name" | "length";
  /** What speaks against it, as a sentence; empty where nothing does. */
  readonly doubt: string;
}

/** Parts of a path that decide, from its end: letters of any case and width are alike. */
const partsOf = (sample: Sample): string[] =>
  withoutExtension(sample.file?.path ?? sample.name)
    .normalize("NFKC")
    .toLowerCase()
    .split("/")
    .reverse();

/** How many parts of two paths are alike, from the end. */
function alike(a: readonly string[], b: readonly string[]): number {
  let n = 0;
  while (n < a.length && n < b.length && a[n] === b[n]) n++;
  return n;
}

/** Whether two samples may be one by their size: a sample that is only known by its name has no rate and any length. */
const sameSize = (a: Sample, b: Sample): boolean =>
  a.frames === b.frames && a.rate === b.rate && a.channels === b.channels;

/** Whether the size of a missing sample was ever known: it was measured once. */
const isMeasured = (sample: Sample): boolean => sample.peak > -120;

/** The candidate that stands out by a score above 0; null where none or several do. */
function best(candidates: readonly Sample[], score: (c: Sample) => number): Sample | null {
  let [most, found, times] = [0, null as Sample | null, 0];
  for (const candidate of candidates) {
    const own = score(candidate);
    if (own > most) [most, found, times] = [own, candidate, 1];
    else if (own === most && own > 0) times++;
  }
  return times === 1 ? found : null;
}

/**
 * Finds missing samples among others: by their content, by path and name, then by their length where no other is as long. One candidate may stand for
 * several (two names of one content); what several could stand for equally well isn't found.
 */
export function relink(missing: readonly Sample[], candidates: readonly Sample[]): Relinked[] {
  const bySha = new Map(candidates.map((c) => [c.sha, c]));
  const byName = new Map<string, Sample[]>();
  const paths = new Map(candidates.map((c) => [c, partsOf(c)]));
  for (const [candidate, [name = ""]] of paths) byName.set(name, [...(byName.get(name) ?? []), candidate]);
  const taken = new Set<Sample>();
  const left: Sample[] = [];
  const linked: Relinked[] = [];
  const link = (sample: Sample, found: Sample, by: Relinked["by"], doubt = ""): void => {
    taken.add(found);
    linked.push({ missing: sample, found, by, doubt });
  };
  for (const sample of missing) {
    const own = bySha.get(sample.sha);
    const parts = partsOf(sample);
    const called = byName.get(parts[0] ?? "") ?? [];
    const fits = called.filter((c) => !isMeasured(sample) || sameSize(sample, c));
    const among = fits.length > 0 ? fits : called;
    const named = best(among, (c) => alike(parts, paths.get(c) ?? []));
    if (own) link(sample, own, "content");
    else if (named) {
      const whole = alike(parts, paths.get(named) ?? []) > 1;
      const doubt = fits.length > 0 ? "" : "it is called so, but isn’t as long";
      link(sample, named, whole ? "path" : "name", doubt);
    } else left.push(sample);
  }
  for (const sample of left) {
    if (!isMeasured(sample)) continue;
    const free = candidates.filter((c) => !taken.has(c));
    const found = best(free, (c) => (sameSize(sample, c) ? 1 : 0));
    if (found) link(sample, found, "length", "only its length speaks for it");
  }
  return linked;
}
