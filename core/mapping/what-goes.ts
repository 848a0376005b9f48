import { type Instrument, listZones, type Sample, tuneOf, type Zone } from "../instrument";
import { plural } from "../params";

/** What of a zone somebody has made, beyond what placing its sample again would give. */
type Work = "loop" | "tuning" | "level" | "start or end" | "fade";

function worksOf(zone: Zone, sample: Sample | undefined): Work[] {
  const works: Work[] = [];
  const ownLoop = sample?.file?.loop;
  const sameLoop = zone.loop && ownLoop && zone.loop.start === ownLoop.start && zone.loop.end === ownLoop.end;
  if ((zone.loop && !sameLoop) || zone.releaseLoop) works.push("loop");
  // A tenth of a cent is lost where a tuning is rounded.
  const root = tuneOf(zone.root, sample && sample.pitch !== null ? sample.pitch : null);
  if (zone.tune !== 0 && Math.abs(zone.tune - root) > 0.11) works.push("tuning");
  if (zone.gain !== 0 || zone.pan !== 0) works.push("level");
  if (zone.start !== 0 || (sample && zone.end !== sample.frames) || zone.reverse) works.push("start or end");
  if (zone.keyFadeLow + zone.keyFadeHigh + zone.velFadeLow + zone.velFadeHigh > 0) works.push("fade");
  return works;
}

/** What goes when all zones are replaced: how many there are, and what was made of them. */
interface Going {
  readonly zones: number;
  /** As `12 loops, 3 tunings`; empty where nothing was made by hand. */
  readonly made: string;
}

/** What goes of an instrument when all its zones are replaced by new ones. */
export function whatGoes(instrument: Instrument): Going {
  const samples = new Map(instrument.samples.map((s) => [s.sha, s]));
  const counts = new Map<Work, number>();
  const zones = listZones(instrument);
  for (const zone of zones)
    for (const work of worksOf(zone, samples.get(zone.sample ?? ""))) counts.set(work, (counts.get(work) ?? 0) + 1);
  const many = (work: Work, count: number): string =>
    work === "start or end" ? plural(count, "start or end", "starts or ends") : plural(count, work);
  return { zones: zones.length, made: [...counts].map(([work, count]) => many(work, count)).join(", ") };
}

/** What goes, in words, as `48 zones, with 12 loops, 3 tunings`. */
export const saysGone = ({ zones, made }: Going): string =>
  `${plural(zones, "zone")}${made === "" ? "" : `, with ${made}`}`;
