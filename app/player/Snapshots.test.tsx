/** @jest-environment @happy-dom/jest-environment */
import { afterEach, beforeEach, expect, jest, test } from "@jest/globals";
import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import {
  addFaceItem,
  findParam,
  type Instrument,
  moving,
  newFaceItem,
  newInstrument,
  setParam,
} from "../../core/instrument";

let written: { name: string; text: Promise<string> }[] = [];
jest.unstable_mockModule("../basis/save-file", () => ({
  saveFile: (name: string, blob: Blob) => void written.push({ name, text: blob.text() }),
}));
const { Snapshots } = await import("./Snapshots");

const PAN = "layers/main/strip/pan";
const shipped = addFaceItem(newFaceItem({ id: "d", kind: "dial", moves: moving(PAN) })).apply(
  newInstrument("i", "Bench"),
);
const panOf = (instrument: Instrument) => findParam(instrument, PAN)?.value;
let now = shipped;
let told: string[] = [];

const show = () =>
  render(
    <Snapshots
      shipped={shipped}
      now={() => now}
      show={(instrument) => {
        now = instrument;
      }}
      told={(text) => told.push(text)}
    />,
  );
const pan = (to: number) => {
  now = setParam(now, PAN, to).apply(now);
};
const choice = () => screen.getByRole("combobox", { name: "Preset" });
const choose = (name: string) => fireEvent.change(choice(), { target: { value: name } });
const names = () => screen.getAllByRole("option").map((o) => o.textContent);
const open = (text: string, name = "mine.json") =>
  act(async () => {
    const input = screen.getByLabelText("A file of presets");
    Object.defineProperty(input, "files", { value: [new File([text], name)], configurable: true });
    fireEvent.change(input);
    await new Promise((resolve) => setImmediate(resolve));
  });

beforeEach(() => {
  localStorage.clear();
  [now, told, written] = [shipped, [], []];
});
afterEach(cleanup);

test("how the face stands is kept under names of its own, chosen again, and goes back to how it was shipped", () => {
  show();
  pan(0.5);
  fireEvent.click(screen.getByText("Save"));
  pan(-1);
  fireEvent.click(screen.getByText("Save"));
  expect(names()).toEqual(["Factory", "Preset 1", "Preset 2"]);
  choose("Preset 1");
  expect(panOf(now)).toBe(0.5);
  choose("Preset 2");
  expect(panOf(now)).toBe(-1);
  fireEvent.change(choice(), { target: { value: "·" } });
  expect(panOf(now)).toBe(0);
});

test("they are there when the page is opened again; where nothing can be kept that is said", () => {
  show();
  pan(0.25);
  fireEvent.click(screen.getByText("Save"));
  cleanup();
  show();
  choose("Preset 1");
  expect(panOf(now)).toBe(0.25);
  const place = localStorage;
  const full = {
    setItem: () => {
      throw new Error("full");
    },
  };
  Object.defineProperty(globalThis, "localStorage", { value: full, configurable: true });
  fireEvent.click(screen.getByText("Save"));
  Object.defineProperty(globalThis, "localStorage", { value: place, configurable: true });
  expect(told).toEqual(["This browser keeps nothing for this page: export the presets to a file."]);
  // It holds until the page is closed.
  expect(names()).toContain("Preset 2");
});

test("they go out as a file and come in from one; of the same name the file's counts, what holds none is told", async () => {
  show();
  expect(screen.getByRole("button", { name: "Export presets" }).hasAttribute("disabled")).toBe(true);
  pan(0.75);
  fireEvent.click(screen.getByText("Save"));
  fireEvent.click(screen.getByRole("button", { name: "Export presets" }));
  const [file] = written;
  expect(file?.name).toBe("Bench-presets.json");
  const text = (await file?.text) ?? "";
  cleanup();
  localStorage.clear();
  now = shipped;
  show();
  pan(-0.5);
  fireEvent.click(screen.getByText("Save"));
  await open(text);
  expect(names()).toEqual(["Factory", "Preset 1"]);
  choose("Preset 1");
  expect(panOf(now)).toBe(0.75);
  for (const [rubbish, name] of [
    ["", "empty.json"],
    ["[1, 2]", "numbers.json"],
    ["{", "half.json"],
  ] as const) {
    await open(rubbish, name);
    expect(told.at(-1)).toBe(`${name} holds no presets.`);
  }
  expect(names()).toHaveLength(2);
});
