/** @jest-environment @happy-dom/jest-environment */
import { afterEach, beforeEach, expect, jest, test } from "@jest/globals";
import { act, cleanup, render, screen } from "@testing-library/react";
import { Tooltip } from "radix-ui";
import { createStore } from "zustand/vanilla";

const SILENT = { voices: 0, left: 0, right: 0, limiter: 0, thinned: 0, dropped: 0, broken: 0 };
const store = createStore(() => ({ status: SILENT, load: 0, state: "running", loaded: 0, wanted: 0 }));
jest.unstable_mockModule("../state/engine", () => ({ engine: { store }, hearAs: () => {}, showEngine: () => {} }));
const tell = jest.fn();
jest.unstable_mockModule("../state/notices", () => ({ tell }));
const { Meter } = await import("./Meter");

const hear = (status: Partial<typeof SILENT>) => store.setState({ status: { ...SILENT, voices: 1, ...status } });
const show = () => render(<Meter />, { wrapper: Tooltip.Provider });

beforeEach(() => {
  store.setState({ status: SILENT });
  tell.mockClear();
});
afterEach(cleanup);

test("the loudest of what was heard is held, and let go three seconds after the last voice", () => {
  jest.useFakeTimers();
  show();
  act(() => hear({ left: 0.5, right: 0.25 }));
  act(() => hear({ left: 0.1, right: 0.1 }));
  screen.getByText(/−6\.0/);
  act(() => hear({ voices: 0 }));
  act(() => void jest.advanceTimersByTime(2900));
  screen.getByText(/−6\.0/);
  act(() => hear({ voices: 0, left: 1e-7 }));
  act(() => void jest.advanceTimersByTime(200));
  screen.getByText(/−∞/);
  jest.useRealTimers();
});

test("each trouble is told once, by how much more it is", () => {
  show();
  act(() => hear({ thinned: 3 }));
  act(() => hear({ thinned: 3, left: 0.2 }));
  act(() => hear({ thinned: 5, broken: 1 }));
  expect(tell.mock.calls.map(([, words]) => /\d+ \w+/.exec(String(words))?.[0])).toEqual([
    "3 voices",
    "2 voices",
    "1 stretch",
  ]);
});

test("a hundred reports that have piled up while the page was busy are shown one after the other", async () => {
  const failed: unknown[] = [];
  const note = (error: unknown) => failed.push(error);
  const complained = jest.spyOn(console, "error").mockImplementation(note);
  // As in a page: what React is to draw at once comes right behind each report, what it has put off only when all reports are through.
  const env = globalThis as { IS_REACT_ACT_ENVIRONMENT?: boolean };
  show();
  env.IS_REACT_ACT_ENVIRONMENT = false;
  for (let n = 1; n <= 100; n++) {
    hear({ left: n / 200, thinned: n });
    await Promise.resolve();
    await Promise.resolve();
  }
  env.IS_REACT_ACT_ENVIRONMENT = true;
  await act(async () => {});
  screen.getByText(/−6\.0/);
  expect(failed).toEqual([]);
  expect(tell).toHaveBeenCalledTimes(100);
  complained.mockRestore();
});
