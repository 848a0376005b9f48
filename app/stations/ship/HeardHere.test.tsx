/** @jest-environment @happy-dom/jest-environment */
import { afterEach, beforeEach, expect, jest, test } from "@jest/globals";
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { Tooltip } from "radix-ui";
import { createStore } from "zustand/vanilla";

const store = createStore<{ readonly solo: readonly string[] }>(() => ({ solo: [] }));
const solo = jest.fn((layers: readonly string[]) => store.setState({ solo: layers }));
jest.unstable_mockModule("../../state/engine", () => ({
  engine: { store, solo, mute: () => {} },
  hearAs: () => {},
  showEngine: () => {},
}));
const { HeardHere } = await import("./HeardHere");
const { setView } = await import("../../state/view");

const hear = (muted: readonly string[], alone: readonly string[], layers: readonly string[]) => {
  setView({ muted: new Set(muted), alone: new Set(alone) });
  store.setState({ solo: layers });
};
beforeEach(() => {
  hear([], [], []);
  solo.mockClear();
});
afterEach(cleanup);

test("where all of it is heard nothing is said", () => {
  const { container } = render(<HeardHere />, { wrapper: Tooltip.Provider });
  expect(container.textContent).toBe("");
});

test.each([
  [["main/a"], [], [], "1 muted"],
  [[], ["main/a", "main/b"], ["main"], "3 soloed"],
  [["main/a"], [], ["main"], "1 muted, 1 soloed"],
] as const)("what is muted or heard alone is counted: %j %j %j", (muted, alone, layers, text) => {
  hear(muted, alone, layers);
  render(<HeardHere />, { wrapper: Tooltip.Provider });
  screen.getByText(new RegExp(`\\(${text}\\).*what is handed over sounds whole`));
});

test("one press hears all of it again, layers and groups, and it is gone", () => {
  hear(["main/a"], ["main/b"], ["main"]);
  const { container } = render(<HeardHere />, { wrapper: Tooltip.Provider });
  fireEvent.click(screen.getByRole("button", { name: "Hear all of it" }));
  expect(solo).toHaveBeenCalledWith([]);
  expect(container.textContent).toBe("");
});
