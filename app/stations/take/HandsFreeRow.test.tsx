/** @jest-environment @happy-dom/jest-environment */
import { afterEach, beforeEach, expect, test } from "@jest/globals";
import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { Tooltip } from "radix-ui";
import { History, newInstrument } from "../../../core/instrument";
import { HANDS_FREE, settleHandsFree } from "../../../core/mapping";
import { handsFree, handsFreeOf } from "../../state/hands-free";
import { session } from "../../state/session";
import { HandsFreeRow } from "./HandsFreeRow";

const NAMES = {
  threshold: "How far above the room a sound begins",
  quiet: "Quiet after which a sound is over",
  longest: "Longest sound",
  tolerance: "How far a pitch may be off its note",
} as const;

const open = (id: string) => act(() => session.store.setState({ history: History.of(newInstrument(id, "Bench")) }));

beforeEach(() => {
  localStorage.clear();
  handsFree.setState({ kept: {} });
  open("one");
});
afterEach(cleanup);

const field = (name: keyof typeof NAMES) => screen.getByLabelText<HTMLInputElement>(NAMES[name]);
function type(name: keyof typeof NAMES, text: string): void {
  field(name).focus();
  fireEvent.change(field(name), { target: { value: text } });
  fireEvent.keyDown(field(name), { key: "Enter" });
}

test("it begins with what is usual, each with its unit; a pitch that isn't asked says so", () => {
  render(<HandsFreeRow />, { wrapper: Tooltip.Provider });
  expect(field("threshold").value).toMatch(/^\+?15.* dB$/);
  expect(field("quiet").value).toBe("350 ms");
  expect(field("longest").value).toBe("30.00 s");
  type("tolerance", "0");
  expect(field("tolerance").value).toBe("not asked");
});

test.each([
  ["threshold", "20", 20],
  ["threshold", "1000", 60],
  ["quiet", "0,3", 0.3],
  ["quiet", "-4", 0.05],
  ["longest", "5 min", HANDS_FREE.longest],
  ["longest", "1e9", 300],
  ["tolerance", "12.5", 12],
  ["tolerance", "a bell", HANDS_FREE.tolerance],
] as const)("%s typed as %s is taken within its limits, or not at all", (name, text, expected) => {
  render(<HandsFreeRow />, { wrapper: Tooltip.Provider });
  type(name, text);
  expect(handsFreeOf(handsFree.getState(), "one")[name]).toBeCloseTo(expected, 9);
});

test("each instrument has its own, remembered by the browser; another one begins with what is usual", () => {
  const { rerender } = render(<HandsFreeRow />, { wrapper: Tooltip.Provider });
  type("threshold", "24");
  open("two");
  rerender(<HandsFreeRow />);
  expect(field("threshold").value).toMatch(/15/);
  type("longest", "60");
  open("one");
  rerender(<HandsFreeRow />);
  expect(field("threshold").value).toMatch(/24/);
  expect(field("longest").value).toBe("30.00 s");
  const stored = JSON.parse(localStorage.getItem("vise-hands-free") ?? "{}");
  expect(Object.keys(stored).sort()).toEqual(["one", "two"]);
  expect(settleHandsFree(stored.two).longest).toBe(60);
});
