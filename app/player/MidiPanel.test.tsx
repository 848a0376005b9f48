/** @jest-environment @happy-dom/jest-environment */
import { afterEach, beforeEach, expect, test } from "@jest/globals";
import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { addFaceItem, type Instrument, moving, newFaceItem, newInstrument } from "../../core/instrument";
import type { EngineHost } from "../audio/engine-host";
import type { Change } from "../face/face-world";
import { MidiPanel } from "./MidiPanel";

const PAN = "layers/main/strip/pan";
const LEVEL = "layers/main/strip/level";

interface Input {
  readonly name: string | null;
  onmidimessage: ((event: { data: Uint8Array }) => void) | null;
}
let inputs: Input[] = [];
let access: { inputs: Map<string, Input>; onstatechange: (() => void) | null };
let refused = false;
let played: number[][] = [];
let moved: { changes: readonly Change[]; gesture: string; what: string }[] = [];
let touched: string | null = null;

beforeEach(() => {
  inputs = [{ name: "bench keys", onmidimessage: null }];
  [refused, played, moved, touched] = [false, [], [], null];
  localStorage.clear();
  Object.assign(navigator, {
    requestMIDIAccess: async () => {
      if (refused) throw new Error("no");
      access = { inputs: new Map(inputs.map((input, i) => [`${i}`, input])), onstatechange: null };
      return access;
    },
  });
});
afterEach(cleanup);

const host = { midi: (...bytes: number[]) => void played.push(bytes) } as unknown as EngineHost;
const setAll = (changes: readonly Change[], gesture: string, what: string) => {
  moved.push({ changes, gesture, what });
};
const show = (instrument: Instrument) =>
  render(<MidiPanel host={host} now={() => instrument} setAll={setAll} touched={() => touched} />);
async function opened(instrument = newInstrument("i", "Bench")): Promise<void> {
  show(instrument);
  await act(async () => void fireEvent.click(screen.getByText("Play by MIDI")));
}
const send = (...bytes: number[]) => act(() => inputs[0]?.onmidimessage?.({ data: Uint8Array.from(bytes) }));

test("keyboards that are plugged in are named and played, those that come later too; who leaves hears them no more", async () => {
  await opened();
  screen.getByText("Listening to bench keys.");
  send(0x90, 60, 100, 0x80, 60, 0);
  expect(played).toEqual([
    [0x90, 60, 100],
    [0x80, 60, 0],
  ]);
  const later: Input = { name: null, onmidimessage: null };
  access.inputs.set("later", later);
  act(() => access.onstatechange?.());
  screen.getByText("Listening to bench keys, unnamed keyboard.");
  expect(later.onmidimessage).not.toBeNull();
  cleanup();
  expect([inputs[0]?.onmidimessage, later.onmidimessage]).toEqual([null, null]);
});

test("without a keyboard, and where the browser gives no MIDI, that is said", async () => {
  inputs = [];
  await opened();
  screen.getByText("No keyboard is plugged in yet.");
  cleanup();
  refused = true;
  await opened();
  screen.getByRole("alert");
});

test("a knob that is learnt moves what was touched last, from the very turn by which it is learnt, and nothing is played by it", async () => {
  await opened();
  fireEvent.click(screen.getByText("Learn a knob"));
  // Nothing was touched yet, and a note is no knob, nor is a command.
  send(0xb0, 20, 64);
  touched = PAN;
  send(0x90, 60, 100);
  send(0xb0, 123, 0);
  expect(moved).toEqual([]);
  send(0xb0, 21, 127);
  expect(moved).toEqual([{ changes: [[PAN, 1]], gesture: "knob 21", what: PAN }]);
  screen.getByText("Learn a knob");
  // Later it is still bound to that, whatever is touched; others are played.
  touched = LEVEL;
  send(0xb0, 21, 0);
  expect(moved.at(-1)?.changes).toEqual([[PAN, -1]]);
  send(0xb0, 22, 5);
  expect(played.at(-1)).toEqual([0xb0, 22, 5]);
  expect(moved).toHaveLength(2);
});

test("what an item moves goes along, each over its own range", async () => {
  const [pan, level] = [...moving(PAN), ...moving(LEVEL)];
  if (!pan || !level) throw new Error("there is nothing to move");
  const item = newFaceItem({ id: "d", kind: "dial", moves: [pan, { ...level, from: 1, to: 0 }] });
  const instrument = addFaceItem(item).apply(newInstrument("i", "Bench"));
  touched = PAN;
  await opened(instrument);
  fireEvent.click(screen.getByText("Learn a knob"));
  send(0xb0, 7, 0);
  const [first, second] = moved[0]?.changes ?? [];
  expect([first, second?.[0]]).toEqual([[PAN, -1], LEVEL]);
  expect(Number(second?.[1])).toBeGreaterThan(0);
});

test("what was learnt is there when the page is opened again, and can be forgotten; what is gone says so", async () => {
  touched = PAN;
  await opened();
  fireEvent.click(screen.getByText("Learn a knob"));
  send(0xb0, 30, 64);
  cleanup();
  show(newInstrument("i", "Bench"));
  screen.getByText("Controller 30");
  cleanup();
  // Another instrument has its own.
  show(newInstrument("other", "Other"));
  expect(screen.queryByText("Controller 30")).toBeNull();
  cleanup();
  const bare = newInstrument("i", "Bench");
  show({ ...bare, layers: [] });
  screen.getByText(/moves what is gone/);
  fireEvent.click(screen.getByRole("button", { name: "Forget controller 30" }));
  expect(screen.queryByRole("list")).toBeNull();
  cleanup();
  show(bare);
  expect(screen.queryByRole("list")).toBeNull();
});

test("a place that holds rubbish counts as empty", () => {
  localStorage.setItem("vise-player-midi:i", '{"controller": "all"');
  show(newInstrument("i", "Bench"));
  expect(screen.queryByRole("list")).toBeNull();
});
