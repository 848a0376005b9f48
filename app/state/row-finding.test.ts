import { describe, expect, jest, test } from "@jest/globals";
import { type Instrument, newInstrument, newSample, setSource } from "../../core/instrument";

const FOUND = [
  { hertz: 200, level: -3, decay: 2 },
  { hertz: 551, level: 0, decay: 1 },
  { hertz: 900, level: -30, decay: 0.5 },
];
const open: { instrument: Instrument | null; committed: Instrument[] } = {
  instrument: setSource("main", "partials").apply(newInstrument("one", "One")),
  committed: [],
};
jest.unstable_mockModule("../workers/audio-worker", () => ({ Cancelled: class extends Error {} }));
jest.unstable_mockModule("./engine", () => ({ hearAs: () => {}, showEngine: () => {} }));
jest.unstable_mockModule("./notices", () => ({ tell: () => {} }));
jest.unstable_mockModule("./with-progress", () => ({
  withProgress: async (_: string, run: (worker: unknown) => unknown) =>
    run({ rings: async () => ({ found: FOUND, spectrum: new Float32Array(360) }) }),
}));
jest.unstable_mockModule("./session", () => ({
  session: {
    get instrument() {
      return open.instrument;
    },
    commit: (edit: { apply: (i: Instrument) => Instrument }) => {
      open.instrument = open.instrument && edit.apply(open.instrument);
    },
    undoAction: () => ({ label: "Undo", run: () => {}, still: () => true }),
  },
}));
const { fundamentalOf, rowFinding } = await import("./row-finding");

const SOURCE = "layers/main/source";
const sample = newSample({ sha: "a".repeat(64), name: "hit", frames: 48000, rate: 48000, channels: 1 });

describe("what is found in a sample", () => {
  test("is heard in place of the table, less of it above a threshold, and taken as it is heard; the document is untouched until then", async () => {
    const before = open.instrument as Instrument;
    await rowFinding.find(SOURCE, sample);
    expect(open.instrument).toBe(before);
    const ratios = () => rowFinding.heard(before).layers[0]?.source.table?.map((r) => r.ratio);
    // The loudest is the key.
    expect(ratios()).toEqual([200 / 551, 1, 900 / 551]);
    rowFinding.setThreshold(-12);
    expect(ratios()).toEqual([200 / 551, 1]);
    rowFinding.take();
    expect(open.instrument?.layers[0]?.source.table).toHaveLength(2);
    expect(rowFinding.store.getState().now).toBeNull();
    expect(rowFinding.heard(before)).toBe(before);
  });

  test("belongs to the instrument in which it was looked for", async () => {
    const first = open.instrument as Instrument;
    await rowFinding.find(SOURCE, sample);
    const other = { ...first, id: "two" };
    expect(rowFinding.heard(other)).toBe(other);
    open.instrument = other;
    rowFinding.take();
    expect(open.instrument).toBe(other);
    // One panel that closes doesn't end the search of another.
    await rowFinding.find(SOURCE, sample);
    rowFinding.leave("layers/main/stages/other");
    expect(rowFinding.store.getState().now).not.toBeNull();
    rowFinding.leave(SOURCE);
    expect(rowFinding.store.getState().now).toBeNull();
  });

  test("a body’s pitch is one of its modes, near what was measured of the whole", () => {
    expect(fundamentalOf(FOUND, 215, "modes")).toBe(200);
    expect(fundamentalOf(FOUND, 215, "partials")).toBe(215);
    expect(fundamentalOf(FOUND, 330, "modes")).toBe(330);
    expect(fundamentalOf(FOUND, 905, "modes")).toBe(905);
    expect(fundamentalOf(FOUND, null, "modes")).toBe(551);
  });
});
