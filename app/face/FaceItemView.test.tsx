/** @jest-environment @happy-dom/jest-environment */
import { afterEach, describe, expect, test } from "@jest/globals";
import { cleanup, fireEvent, screen } from "@testing-library/react";
import {
  addressInTable,
  findParam,
  type Instrument,
  moving,
  newCondition,
  newFaceItem,
  newInstrument,
  setSource,
  setTable,
  together,
} from "../../core/instrument";
import { FaceItemView } from "./FaceItemView";
import { measures, worldOf } from "./test-world";

const CUTOFF = "layers/main/stages/filter/cutoff";
const MODE = "layers/main/stages/filter/type";
const PAN = "layers/main/strip/pan";
const MUTE = "layers/main/strip/mute";
const doc = newInstrument("i", "Bench");
const valueAt = (instrument: Instrument, address: string) => findParam(instrument, address)?.value;

afterEach(cleanup);

/** Presses on an element at a place, goes along a way, and lets go; `givenUp`: Escape is pressed instead. */
function drag(element: Element, way: readonly (readonly [x: number, y: number])[], givenUp = false): void {
  element.setPointerCapture = () => {};
  element.hasPointerCapture = () => true;
  const at = ([clientX, clientY]: readonly [number, number]) => ({ clientX, clientY, pointerId: 1, button: 0 });
  const [first, ...rest] = way;
  fireEvent.pointerDown(element, at(first as readonly [number, number]));
  for (const place of rest) fireEvent.pointerMove(element, at(place));
  if (givenUp) fireEvent.keyDown(document.body, { key: "Escape" });
  else fireEvent.pointerUp(element, at(way.at(-1) as readonly [number, number]));
}

describe("a dial", () => {
  const item = newFaceItem({ id: "d", kind: "dial", moves: moving(PAN), text: "Place" });
  const dialOf = (world: ReturnType<typeof worldOf>) => {
    world.show(<FaceItemView item={item} />);
    return screen.getByRole("slider", { name: /Place/ });
  };

  test("tells name, place and value; keys move it by steps, by larger ones, and to its ends", () => {
    const world = worldOf(doc);
    const dial = dialOf(world);
    expect([dial.getAttribute("aria-valuenow"), dial.getAttribute("aria-valuetext")]).toEqual(["50", "centre"]);
    const pressed = (key: string, shiftKey = false) => {
      fireEvent.keyDown(dial, { key, shiftKey });
      return Number(valueAt(world.instrument, PAN));
    };
    expect(pressed("ArrowUp")).toBeCloseTo(0.02, 6);
    expect(pressed("ArrowRight", true)).toBeCloseTo(0.22, 6);
    expect(pressed("ArrowDown")).toBeCloseTo(0.2, 6);
    expect(pressed("PageDown")).toBeCloseTo(0, 6);
    expect(pressed("End")).toBe(1);
    expect(pressed("ArrowUp")).toBe(1);
    expect(pressed("Home")).toBe(-1);
    expect(dial.getAttribute("aria-valuenow")).toBe("0");
    const { steps } = world;
    fireEvent.keyDown(dial, { key: "x" });
    expect(world.steps).toBe(steps);
  });

  test("a drag is one step of undo, finer with Shift; given up, all is as it was; a double click sets it back", () => {
    const world = worldOf(doc);
    const dial = dialOf(world);
    drag(dial, [
      [0, 100],
      [0, 80],
      [0, 60],
    ]);
    expect(Number(valueAt(world.instrument, PAN))).toBeCloseTo(0.5, 6);
    expect(new Set(world.steps.map((s) => s.gesture)).size).toBe(1);
    expect(world.undoAll()).toBe(1);
    drag(
      dial,
      [
        [0, 100],
        [0, 20],
      ],
      true,
    );
    expect(Number(valueAt(world.instrument, PAN))).toBeCloseTo(0, 6);
    world.set(PAN, 0.7);
    fireEvent.doubleClick(dial);
    expect(valueAt(world.instrument, PAN)).toBe(0);
  });

  test("follows what moves elsewhere; what is gone from under it leaves it unbound, and it can't be operated", () => {
    const world = worldOf(doc);
    const dial = dialOf(world);
    world.set(PAN, -1);
    expect(dial.getAttribute("aria-valuenow")).toBe("0");
    cleanup();
    const lost = worldOf(doc);
    lost.show(<FaceItemView item={{ ...item, moves: moving("layers/gone/strip/pan") }} />);
    const dead = screen.getByRole("slider", { name: /Place/ });
    expect([dead.getAttribute("aria-disabled"), dead.getAttribute("tabindex")]).toEqual(["true", "-1"]);
    screen.getByText("not bound");
    fireEvent.keyDown(dead, { key: "End" });
    drag(dead, [
      [0, 100],
      [0, 0],
    ]);
    expect(lost.steps).toEqual([]);
  });

  test("two parameters move together, each over its own part of its travel", () => {
    const world = worldOf(doc);
    const [pan, cutoff] = [...moving(PAN), ...moving(CUTOFF)];
    if (!pan || !cutoff) throw new Error("there is nothing to move");
    world.show(<FaceItemView item={{ ...item, moves: [pan, { ...cutoff, from: 1, to: 0 }] }} />);
    const dial = screen.getByRole("slider", { name: /Place/ });
    fireEvent.keyDown(dial, { key: "End" });
    const spec = findParam(doc, CUTOFF)?.spec;
    expect(valueAt(world.instrument, PAN)).toBe(1);
    expect(spec?.type === "number" && valueAt(world.instrument, CUTOFF) === spec.min).toBe(true);
    expect(world.undoAll()).toBe(1);
  });

  test("a condition that doesn't hold takes it away from hand and keys, or from sight", () => {
    const usable = { ...newCondition(PAN), does: "enables" as const };
    const world = worldOf(doc);
    world.show(<FaceItemView item={{ ...item, moves: moving(CUTOFF), when: [usable] }} />);
    const dial = () => screen.getByRole("slider", { name: /Place/ });
    expect(dial().getAttribute("aria-disabled")).toBe("false");
    world.set(PAN, -1);
    expect(dial().getAttribute("aria-disabled")).toBe("true");
    fireEvent.keyDown(dial(), { key: "End" });
    expect(world.steps).toEqual([]);
  });
});

describe("switches, buttons and choices", () => {
  test("a switch is turned by a press, and says how it stands", () => {
    const world = worldOf(doc);
    world.show(<FaceItemView item={newFaceItem({ id: "s", kind: "switch", moves: moving(MUTE), text: "Mute" })} />);
    const it = screen.getByRole("switch", { name: /Mute/ });
    expect(it.getAttribute("aria-checked")).toBe("false");
    fireEvent.click(it);
    expect([it.getAttribute("aria-checked"), valueAt(world.instrument, MUTE)]).toEqual(["true", 1]);
    fireEvent.click(it);
    expect(valueAt(world.instrument, MUTE)).toBe(0);
    expect(world.undoAll()).toBe(2);
  });

  test("a button that is held moves up and back; it is let go when it loses the focus or goes away", () => {
    const world = worldOf(doc);
    const held = newFaceItem({ id: "b", kind: "button", moves: moving(PAN), text: "Swell" });
    const { unmount } = world.show(<FaceItemView item={held} />);
    const it = screen.getByRole("button", { name: "Swell" });
    it.setPointerCapture = () => {};
    world.set(PAN, 0.25);
    fireEvent.pointerDown(it, { pointerId: 1 });
    expect(valueAt(world.instrument, PAN)).toBe(1);
    fireEvent.pointerUp(it, { pointerId: 1 });
    expect(Number(valueAt(world.instrument, PAN))).toBeCloseTo(0.25, 6);
    // A key that repeats presses once.
    for (let n = 0; n < 3; n++) fireEvent.keyDown(it, { key: " " });
    expect(valueAt(world.instrument, PAN)).toBe(1);
    fireEvent.blur(it);
    expect(Number(valueAt(world.instrument, PAN))).toBeCloseTo(0.25, 6);
    fireEvent.keyUp(it, { key: " " });
    expect(Number(valueAt(world.instrument, PAN))).toBeCloseTo(0.25, 6);
    fireEvent.pointerDown(it, { pointerId: 1 });
    unmount();
    expect(Number(valueAt(world.instrument, PAN))).toBeCloseTo(0.25, 6);
  });

  test("a choice has each of its choices as a radio or in a list; one before and one after go round at the ends", () => {
    const world = worldOf(doc);
    const spec = findParam(doc, MODE)?.spec;
    if (spec?.type !== "choice") throw new Error("it is no choice");
    const item = newFaceItem({ id: "c", kind: "choice", moves: moving(MODE), text: "Kind" });
    world.show(<FaceItemView item={item} />);
    const radios = screen.queryAllByRole("radio");
    if (radios.length > 0) {
      expect(radios).toHaveLength(spec.choices.length);
      fireEvent.click(radios[2] as Element);
    } else fireEvent.change(screen.getByRole("combobox"), { target: { value: spec.choices[2]?.id } });
    expect(valueAt(world.instrument, MODE)).toBe(spec.choices[2]?.id);
    cleanup();
    world.show(<FaceItemView item={{ ...item, id: "st", kind: "stepper" }} />);
    const after = screen.getByRole("button", { name: /one after/ });
    for (let n = 0; n < spec.choices.length - 2; n++) fireEvent.click(after);
    expect(valueAt(world.instrument, MODE)).toBe(spec.choices[0]?.id);
    fireEvent.click(screen.getByRole("button", { name: /one before/ }));
    expect(valueAt(world.instrument, MODE)).toBe(spec.choices.at(-1)?.id);
  });

  test("Randomise moves all but what is fixed, in one step, and never beyond its ends", () => {
    const world = worldOf(doc);
    const [pan, cutoff] = [...moving(PAN), ...moving(CUTOFF)];
    if (!pan || !cutoff) throw new Error("there is nothing to move");
    const item = newFaceItem({ id: "r", kind: "random", moves: [pan, { ...cutoff, fixed: true }], text: "Dice" });
    world.show(<FaceItemView item={{ ...item, amount: 1 }} />);
    for (let n = 0; n < 20; n++) fireEvent.click(screen.getByRole("button", { name: "Dice" }));
    expect(valueAt(world.instrument, CUTOFF)).toBe(valueAt(doc, CUTOFF));
    expect(new Set(world.steps.map((s) => s.gesture)).size).toBe(20);
    for (const { changes } of world.steps) {
      expect(changes.map(([address]) => address)).toEqual([PAN]);
      expect(Math.abs(Number(changes[0]?.[1]))).toBeLessThanOrEqual(1);
    }
  });
});

describe("columns", () => {
  const source = "layers/main/source";
  const LEVELS = Array.from({ length: 8 }, (_, i) => addressInTable(source, i, "level"));
  const LOWEST = -96;
  const partials = together("", [
    setSource("main", "partials"),
    setTable(
      source,
      Array.from({ length: 8 }, (_, i) => ({ ratio: i + 1, level: LOWEST })),
      "",
    ),
  ]).apply(doc);
  const item = newFaceItem({ id: "bank", kind: "columns", moves: moving(...LEVELS), text: "Levels" });
  const shares = (world: ReturnType<typeof worldOf>) => LEVELS.map((a) => Number(valueAt(world.instrument, a)));

  test("are drawn across: what a quick pointer has skipped lies on the line between, all in one step", () => {
    const world = worldOf(partials);
    world.show(<FaceItemView item={item} />);
    const bank = screen.getByRole("slider", { name: /left and right select a column/ });
    measures(bank, 800, 100);
    drag(bank, [
      [50, 100],
      [750, 0],
    ]);
    const levels = shares(world);
    for (let i = 1; i < 8; i++) expect(levels[i]).toBeGreaterThan(levels[i - 1] as number);
    const spec = findParam(partials, LEVELS[0] as string)?.spec;
    expect(spec?.type === "number" && [levels[0] === spec.min, levels[7] === spec.max]).toEqual([true, true]);
    expect(world.undoAll()).toBe(1);
    // Beyond the edges the outermost columns stay at their ends.
    drag(bank, [
      [-300, 500],
      [2000, -400],
    ]);
    expect(shares(world)[7]).toBe(spec?.type === "number" ? spec.max : Number.NaN);
  });

  test("keys choose a column and move it; it is told which", () => {
    const world = worldOf(partials);
    world.show(<FaceItemView item={item} />);
    const bank = screen.getByRole("slider", { name: /left and right select a column/ });
    for (const key of ["ArrowRight", "ArrowRight", "End"]) fireEvent.keyDown(bank, { key });
    expect(bank.getAttribute("aria-valuetext")).toMatch(/^3 of 8/);
    expect(bank.getAttribute("aria-valuenow")).toBe("100");
    expect(shares(world).filter((level) => level > -1)).toHaveLength(1);
    for (let n = 0; n < 20; n++) fireEvent.keyDown(bank, { key: "ArrowRight" });
    expect(bank.getAttribute("aria-valuetext")).toMatch(/^8 of 8/);
    fireEvent.keyDown(bank, { key: "ArrowUp", ctrlKey: true });
    expect(bank.getAttribute("aria-valuenow")).toBe("0");
  });
});

test("the pages of a face are gone to by their names", () => {
  const paged = { ...doc, face: { ...doc.face, pages: [...doc.face.pages] } };
  const second = { ...(doc.face.pages[0] as (typeof doc.face.pages)[number]), id: "back", name: "Behind" };
  const world = worldOf({ ...paged, face: { ...paged.face, pages: [...paged.face.pages, second] } });
  world.show(<FaceItemView item={newFaceItem({ id: "p", kind: "page" })} />);
  const nav = screen.getByRole("navigation", { name: "Pages" });
  expect(nav.querySelectorAll("button")).toHaveLength(2);
  expect(nav.querySelector("[aria-current=page]")?.textContent).toBe(doc.face.pages[0]?.name);
  fireEvent.click(screen.getByRole("button", { name: "Behind" }));
  expect(world.page).toBe("back");
});
