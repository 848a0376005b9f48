/** @jest-environment @happy-dom/jest-environment */
import { afterEach, beforeEach, expect, jest, test } from "@jest/globals";
import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { Tooltip } from "radix-ui";
import { createStore } from "zustand/vanilla";

const store = createStore(() => ({ edits: 0 }));
jest.unstable_mockModule("../state/session", () => ({ session: { store } }));
const { beginJob, tell, useNotices } = await import("../state/notices");
const { Notices } = await import("./Notices");

const show = () => render(<Notices />, { wrapper: Tooltip.Provider });
const told = () => useNotices.getState().notices.map((n) => n.text);

beforeEach(() => {
  jest.useFakeTimers();
  useNotices.setState({ notices: [] });
});
afterEach(() => {
  cleanup();
  jest.useRealTimers();
});

test("what is told goes after seven seconds, what can be acted on after three quarters of a minute, an error when it is closed", () => {
  show();
  act(() => {
    tell("error", "It can’t be read.");
    tell("good", "Three were placed.", { label: "Undo", run: () => {} });
    tell("good", "Saved.");
  });
  act(() => void jest.advanceTimersByTime(8000));
  expect(told()).toEqual(["It can’t be read.", "Three were placed."]);
  act(() => void jest.advanceTimersByTime(40000));
  expect(told()).toEqual(["It can’t be read."]);
  fireEvent.click(screen.getByRole("button", { name: "Close" }));
  expect(told()).toEqual([]);
});

test("what can't be undone any more isn't offered, and its notice goes soon", () => {
  show();
  const still = () => store.getState().edits === 0;
  const run = jest.fn();
  act(() => tell("good", "Three were placed.", { label: "Undo", run, still }));
  screen.getByRole("button", { name: "Undo" });
  act(() => store.setState({ edits: 1 }));
  expect(screen.queryByRole("button", { name: "Undo" })).toBeNull();
  screen.getByText("Three were placed.");
  act(() => void jest.advanceTimersByTime(8000));
  expect(told()).toEqual([]);
  act(() => store.setState({ edits: 0 }));
  act(() => tell("good", "Four were placed.", { label: "Undo", run, still }));
  fireEvent.click(screen.getByRole("button", { name: "Undo" }));
  expect(run).toHaveBeenCalledTimes(1);
});

test("at most four stand there, those first that one can act on; the same words once", () => {
  show();
  const action = { label: "Undo", run: () => {} };
  act(() => {
    for (let n = 1; n <= 6; n++) tell("good", `Step ${n}.`, n === 3 ? action : null);
    tell("good", "Step 6.");
  });
  expect(told()).toHaveLength(4);
  expect(told()).toContain("Step 3.");
  expect(told().filter((t) => t === "Step 6.")).toHaveLength(1);
});

test("an error stays whatever else is told: what it offers may be the only way to what was made", () => {
  show();
  act(() => {
    tell("error", "Not yet stored.", { label: "Try again", run: () => {} });
    for (let n = 1; n <= 9; n++) tell("good", `Step ${n}.`, { label: "Undo", run: () => {} });
  });
  expect(told()).toEqual(["Not yet stored.", "Step 7.", "Step 8.", "Step 9."]);
});

test("a job shows how far it is and can be cancelled; less than a hundredth isn't shown", () => {
  show();
  const cancel = jest.fn();
  let job: ReturnType<typeof beginJob> | null = null;
  act(() => {
    job = beginJob("Bringing in 6 files", cancel);
  });
  act(() => job?.show(0.42));
  screen.getByText("42 %");
  act(() => job?.show(0.425));
  screen.getByText("42 %");
  fireEvent.click(screen.getByRole("button", { name: "Cancel" }));
  expect(cancel).toHaveBeenCalledTimes(1);
  act(() => job?.end());
  expect(screen.queryByText("Bringing in 6 files")).toBeNull();
});
