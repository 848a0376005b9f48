/** @jest-environment @happy-dom/jest-environment */
import { afterEach, beforeEach, expect, test } from "@jest/globals";
import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { Tooltip } from "radix-ui";
import { findParam, History, newInstrument, setParam } from "../../core/instrument";
import { session } from "../state/session";
import { ParamControl } from "./ParamControl";

const CUTOFF = "layers/main/stages/filter/cutoff";
const RESONANCE = "layers/main/stages/filter/resonance";
const shownAt = (address: string) => session.instrument && findParam(session.instrument, address)?.value;
const spec = findParam(newInstrument("i", "Bench"), CUTOFF)?.spec;

beforeEach(() => {
  const doc = setParam(newInstrument("one", "Bench"), CUTOFF, 800).apply(newInstrument("one", "Bench"));
  act(() => session.store.setState({ history: History.of(doc) }));
});
afterEach(cleanup);

/** Opens the menu of a control by its second button, on whatever part of it. */
function menuOn(part: Element): (name: string) => HTMLElement {
  fireEvent.contextMenu(part);
  return (name) => screen.getByRole("menuitem", { name: new RegExp(name) });
}
async function paste(): Promise<void> {
  const line = menuOn(screen.getByRole("slider"))("Paste a value");
  await act(async () => void fireEvent.click(line));
}
const show = (address: string) => render(<ParamControl address={address} />, { wrapper: Tooltip.Provider });

test("label, slider and value have a menu at the second button; by it the value goes back to what is usual", () => {
  show(CUTOFF);
  for (const part of [screen.getByText("Cutoff"), screen.getByRole("slider"), screen.getByRole("textbox")]) {
    menuOn(part)("Put it on the face");
    fireEvent.keyDown(document.activeElement ?? document.body, { key: "Escape" });
  }
  expect(shownAt(CUTOFF)).toBe(800);
  fireEvent.click(menuOn(screen.getByRole("slider"))("Back to"));
  expect(shownAt(CUTOFF)).toBe(spec?.default);
  expect(menuOn(screen.getByRole("slider"))("Back to").getAttribute("data-disabled")).not.toBeNull();
});

test("a value that was copied is pasted; one of another kind is told and changes nothing", async () => {
  show(CUTOFF);
  fireEvent.click(menuOn(screen.getByRole("slider"))("Copy the value"));
  act(() => session.commit(setParam(session.instrument as never, CUTOFF, 2000)));
  await paste();
  expect(shownAt(CUTOFF)).toBeCloseTo(800, 0);
  cleanup();
  const before = shownAt(RESONANCE);
  show(RESONANCE);
  await navigator.clipboard.writeText("a bicycle");
  await paste();
  expect(shownAt(RESONANCE)).toBe(before);
});
