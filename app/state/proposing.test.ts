import { beforeEach, expect, jest, test } from "@jest/globals";
import { createStore } from "zustand/vanilla";
import {
  addSamples,
  changeAbout,
  type Edit,
  History,
  type Instrument,
  listZones,
  newInstrument,
  newSample,
  type Sample,
} from "../../core/instrument";
import { reading } from "../workers/audio/reading";

/** What the worker waits for before it answers: nothing, unless a test holds it. */
let gate: Promise<void> = Promise.resolve();
const answering =
  <A extends unknown[], R>(work: (...args: A) => R) =>
  async (...args: A): Promise<R> => {
    await gate;
    return work(...args);
  };

interface Open {
  readonly history: History | null;
}
const store = createStore<Open>(() => ({ history: null }));
let refuses = false;
const session = {
  store,
  get instrument(): Instrument | null {
    return store.getState().history?.present ?? null;
  },
  commit(edit: Edit): void {
    const { history } = store.getState();
    if (history && !refuses) store.setState({ history: history.commit(edit) });
  },
  keepBefore: () => {},
  undoAction: () => ({ label: "Undo", run: () => {}, still: () => true }),
};
const told: string[] = [];

jest.unstable_mockModule("../workers/audio-worker", () => ({
  audioWorker: () => ({
    readNames: answering(reading.readNames),
    evidence: answering(reading.evidence),
    byPattern: answering(reading.byPattern),
    fixRole: answering(reading.fixRole),
  }),
}));
jest.unstable_mockModule("./session", () => ({ session }));
jest.unstable_mockModule("./engine", () => ({ hearAs: () => {}, showEngine: () => {} }));
let looks = 0;
jest.unstable_mockModule("./view", () => ({ setView: () => looks++ }));
jest.unstable_mockModule("./key-axis", () => ({ settleAxis: () => ({}) }));
jest.unstable_mockModule("./notices", () => ({ tell: (_kind: string, text: string) => told.push(text) }));
const { proposing } = await import("./proposing");

const NAMES = ["C", "D", "E", "F", "G", "A", "B"];
/** Tubes whose names say their notes from C4 up, and which sound so, but for those that are said to sound otherwise. */
const tubes = (octave = 4, sounds: Readonly<Record<number, number>> = {}): Sample[] =>
  NAMES.map((name, i) => {
    const note = 12 * (octave + 1) + ([0, 2, 4, 5, 7, 9, 11][i] as number);
    return newSample({
      sha: `${i}${octave}`.padEnd(64, "0"),
      name: `tube ${name}${octave}`,
      frames: 44100,
      pitch: sounds[i] ?? note,
      confidence: 0.95,
      peak: -6,
      loudness: -20,
    });
  });
const open = (id: string, samples: readonly Sample[]): void =>
  store.setState({ history: History.of(addSamples([...samples]).apply(newInstrument(id, "Tubes"))) });
const roots = (): readonly number[] => proposing.store.getState().proposal?.placement.zones.map((z) => z.root) ?? [];

beforeEach(() => {
  proposing.drop();
  gate = Promise.resolve();
  refuses = false;
  told.length = 0;
  looks = 0;
});

test("what the names say is proposed, nothing of it is in the document, and placing it is one step", async () => {
  const samples = tubes();
  open("one", samples);
  await proposing.propose(samples);
  expect(roots()).toEqual([60, 62, 64, 65, 67, 69, 71]);
  expect(listZones(session.instrument as Instrument)).toEqual([]);
  proposing.place();
  expect(listZones(session.instrument as Instrument).map((z) => z.root)).toEqual([60, 62, 64, 65, 67, 69, 71]);
  expect(proposing.store.getState().proposal).toBeNull();
  expect(told.at(-1)).toMatch(/^7 samples placed, 0 of them with warnings, 0 excluded\. 7 roots\./);
  store.setState({ history: store.getState().history?.undo() ?? null });
  expect(listZones(session.instrument as Instrument)).toEqual([]);
});

test("a tab that only reads keeps what was proposed", async () => {
  const samples = tubes();
  open("reads", samples);
  await proposing.propose(samples);
  refuses = true;
  proposing.place();
  expect(roots()).toHaveLength(7);
});

test("octaves move all of it with its limits, and one sound may be believed against its name", async () => {
  const samples = tubes(4, { 2: 63 });
  open("two", samples);
  await proposing.propose(samples);
  expect(roots()).toEqual([60, 62, 64, 65, 67, 69, 71]);
  const { low, high } = proposing.store.getState().proposal?.spread ?? { low: 0, high: 0 };
  proposing.believe(samples[2]?.sha ?? "", true);
  expect(roots()).toEqual([60, 62, 63, 65, 67, 69, 71]);
  proposing.setOctaves(-1);
  expect(roots()).toEqual([48, 50, 51, 53, 55, 57, 59]);
  expect(proposing.store.getState().proposal?.spread).toMatchObject({ low: low - 12, high: high - 12 });
  proposing.setOctaves(0);
  proposing.believe(samples[2]?.sha ?? "", false);
  expect(roots()).toEqual([60, 62, 64, 65, 67, 69, 71]);
});

test("an edit made meanwhile is kept: it is worked out anew; samples that are undone end it", async () => {
  const samples = tubes();
  open("three", samples.slice(0, 3));
  session.commit(addSamples(samples.slice(3)));
  let go = () => {};
  gate = new Promise((resolve) => {
    go = resolve;
  });
  const proposed = proposing.propose(samples);
  session.commit(changeAbout({ name: "Renamed" }));
  go();
  await proposed;
  expect(proposing.store.getState().proposal?.preview.about.name).toBe("Renamed");
  session.commit(changeAbout({ name: "Again" }));
  expect(proposing.store.getState().proposal?.preview.about.name).toBe("Again");
  expect(roots()).toHaveLength(7);
  const undone = store.getState().history?.undo().undo().undo() ?? null;
  store.setState({ history: undone });
  expect(proposing.store.getState().proposal).toBeNull();
});

test("an edit between working it out and showing it isn't overwritten", async () => {
  const samples = tubes();
  open("between", samples);
  const proposed = proposing.propose(samples);
  // Two turns of the page later, when it is worked out and not yet shown.
  setTimeout(() => setTimeout(() => session.commit(changeAbout({ name: "Between" }))));
  await proposed;
  expect(session.instrument?.about.name).toBe("Between");
  expect(proposing.store.getState().proposal?.preview.about.name).toBe("Between");
});

test("an instrument that is opened just before it is shown keeps what is looked at and chosen", async () => {
  const samples = tubes();
  open("left", samples);
  const proposed = proposing.propose(samples);
  setTimeout(() => setTimeout(() => open("opened", [])));
  await proposed;
  expect(session.instrument?.id).toBe("opened");
  expect(proposing.store.getState().proposal).toBeNull();
  expect(looks).toBe(0);
  open("stays", samples);
  await proposing.propose(samples);
  expect(looks).toBe(1);
});

test("the later of two counts; one for an instrument that was left comes to nothing", async () => {
  const [low, high] = [tubes(3), tubes(5)];
  open("four", [...low, ...high]);
  await Promise.all([proposing.propose(low), proposing.propose(high)]);
  expect(roots()).toEqual([72, 74, 76, 77, 79, 81, 83]);
  const last = proposing.propose(low);
  open("five", tubes());
  await last;
  expect(proposing.store.getState().proposal).toBeNull();
});

test("a pattern that can't be read is told, and changes nothing; one that can reads all anew", async () => {
  const samples = tubes();
  open("six", samples);
  await proposing.propose(samples);
  expect(await proposing.readBy("{nonsense}")).toEqual(expect.any(String));
  expect(roots()).toEqual([60, 62, 64, 65, 67, 69, 71]);
  expect(await proposing.readBy("tube {note}")).toBeNull();
  expect(roots()).toEqual([60, 62, 64, 65, 67, 69, 71]);
});
