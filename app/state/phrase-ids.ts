import { byIdentity, type Instrument } from "../../core/instrument";

/** The ids of what stands among the phrases beside those that are written down. */

/** The run over all keys, at every velocity layer. */
export const EVERY_KEY = "every-key";
/** The slices of a beat in their order. */
export const SLICES = "slices";
/** A song of one's own. */
export const OWN_SONG = "own-song";

/** The first group of slices of one sample whose beat is known; null where there is none. */
export const slicesOf = byIdentity((layers: Instrument["layers"]) =>
  byIdentity((samples: Instrument["samples"]) => {
    for (const layer of layers)
      for (const { zones } of layer.groups) {
        const [first] = zones;
        if (!first?.sample || zones.length < 2 || zones.some((z) => !z.oneShot || z.sample !== first.sample)) continue;
        const sample = samples.find((s) => s.sha === first.sample);
        if (!sample?.beat) continue;
        return { zones, rate: sample.rate, beat: sample.beat };
      }
    return null;
  }),
);

/** Whether there are slices to be played in their order. */
export const hasSlices = ({ layers, samples }: Pick<Instrument, "layers" | "samples">): boolean =>
  slicesOf(layers)(samples) !== null;
