import { byIdentity, type Instrument, type Sample, type Zone } from "../../../core/instrument";

/** The samples of an instrument by their content. */
export const samplesBySha = byIdentity(
  (samples: Instrument["samples"]): ReadonlyMap<string, Sample> => new Map(samples.map((s) => [s.sha, s])),
);

/** What a zone is called: after its sample. */
export const nameOfZone = ({ sample }: Zone, samples: ReadonlyMap<string, Sample>): string =>
  sample === null ? "computed" : (samples.get(sample)?.name ?? "a missing sample");
