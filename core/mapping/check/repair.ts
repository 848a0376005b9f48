import { changeZones, type Edit, type Instrument, listZones, setParam, type Zone } from "../../instrument";
import { plural } from "../../params";
import type { Finding } from "./finding";

const LIMIT = { gain: [-60, 24], tune: [-1200, 1200] } as const;
const within = (x: number, [low, high]: readonly [number, number]): number => Math.min(high, Math.max(low, x));

/** The edit that puts something right; null where there is no way. */
function repairOf(instrument: Instrument, { repair, zones, group }: Finding): Edit | null {
  if (!repair) return null;
  const ids = new Set(zones);
  const change = (what: string, of: (zone: Zone) => Zone, only: ReadonlySet<string> = ids) =>
    changeZones(only, what, of);
  switch (repair.kind) {
    case "tune":
      return change("Tune", (z) => ({ ...z, root: repair.root, tune: within(repair.tune, LIMIT.tune) }));
    case "gain":
      return change("Even level", (z) => ({
        ...z,
        gain: within(Math.round((z.gain + repair.by) * 10) / 10, LIMIT.gain),
      }));
    case "reach":
      return change("Reach over keys", (z) => ({
        ...z,
        keyLow: repair.keyLow < 0 ? z.keyLow : repair.keyLow,
        keyHigh: repair.keyHigh < 0 ? z.keyHigh : repair.keyHigh,
      }));
    case "velocities":
      return change("Reach over velocities", (z) => ({
        ...z,
        velLow: repair.velLow < 0 ? z.velLow : repair.velLow,
        velHigh: repair.velHigh < 0 ? z.velHigh : repair.velHigh,
      }));
    case "start":
      return change("Begin with the sound", (z) => ({
        ...z,
        start: Math.min(z.end - 1, Math.max(0, z.start + repair.by)),
      }));
    case "one-shot":
      return change("Alike at the end", (z) => ({ ...z, oneShot: repair.oneShot }));
    case "swap":
      return swapped(instrument, zones);
    case "renumber": {
      const all = listZones(instrument);
      const own = all.find((z) => z.id === zones[0]);
      if (!own) return null;
      const most = all.reduce((repeat, z) => (overlap(own, z) ? Math.max(repeat, z.repeat) : repeat), 0);
      return change("Make repeats", (z) => ({ ...z, repeat: most + 1 }), new Set([own.id]));
    }
    case "switch-key":
      return group ? setParam(instrument, `layers/${group.replace("/", "/groups/")}/switchKey`, repair.key) : null;
  }
}

/** Two strengths of a note change places. */
function swapped(instrument: Instrument, zones: readonly string[]): Edit | null {
  const own = listZones(instrument).filter((z) => zones.includes(z.id));
  const ranges = [...new Map(own.map((z) => [`${z.velLow}-${z.velHigh}`, z])).values()];
  const [a, b] = ranges;
  if (!a || !b || ranges.length !== 2) return null;
  return changeZones(new Set(zones), "Swap velocity layers", (z) => {
    const to = z.velLow === a.velLow && z.velHigh === a.velHigh ? b : a;
    return { ...z, velLow: to.velLow, velHigh: to.velHigh, velFadeLow: to.velFadeLow, velFadeHigh: to.velFadeHigh };
  });
}

const overlap = (a: Zone, b: Zone): boolean =>
  a.keyLow <= b.keyHigh && b.keyLow <= a.keyHigh && a.velLow <= b.velHigh && b.velLow <= a.velHigh;

/** Those of some findings that can be put right together: of what is said of one zone the first, for that may settle the rest. */
function apart(findings: readonly Finding[]): Finding[] {
  const touched = new Set<string>();
  return findings.filter(({ repair, zones }) => {
    if (repair === null || zones.some((z) => touched.has(z))) return false;
    for (const zone of zones) touched.add(zone);
    return true;
  });
}

/** One edit that puts right what can be of some findings; what is left is found by the next check. Null where there is no way. */
export function repairs(findings: readonly Finding[]): Edit | null {
  const mended = apart(findings);
  if (mended.length === 0) return null;
  return {
    name: mended.length === 1 ? `Repair: ${mended[0]?.way}` : `Repair ${plural(mended.length, "finding")}`,
    apply: (doc) => mended.reduce((now, finding) => repairOf(now, finding)?.apply(now) ?? now, doc),
  };
}
