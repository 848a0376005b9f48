import { type Instrument, newGroup, newInstrument, newSample, newZone, type Zone } from "../../instrument";

export const SHA = "a".repeat(64);
/** A zone of the one sample. */
export const zone = (id: string, more: Partial<Zone> = {}): Zone => newZone({ id, sample: SHA, end: 1000, ...more });
/** An instrument with a group for each list of zones. */
export const instrumentOf = (...groups: Zone[][]): Instrument => {
  const made = newInstrument("i", "Test");
  const [layer] = made.layers;
  if (!layer) throw new Error("there is no layer");
  const list = groups.map((zones, i) => ({ ...newGroup(`g${i}`, `Group ${i + 1}`), zones }));
  return {
    ...made,
    samples: [newSample({ sha: SHA, name: "Low tube", frames: 44100, pitch: 60.3, confidence: 1 })],
    layers: [{ ...layer, groups: list }],
  };
};
