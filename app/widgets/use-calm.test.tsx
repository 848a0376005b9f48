/** @jest-environment @happy-dom/jest-environment */
import { afterEach, beforeEach, expect, jest, test } from "@jest/globals";
import { act, cleanup, render, screen } from "@testing-library/react";
import { paceOf, useCalm } from "./use-calm";

const EVERY = 100;
let drawn = -1;

function Beside({ value }: { value: number }) {
  drawn = useCalm(value, EVERY);
  return <p>{`beside ${drawn}`}</p>;
}

beforeEach(() => {
  jest.useFakeTimers();
});
afterEach(() => {
  window.dispatchEvent(new Event("pointerup"));
  cleanup();
  jest.useRealTimers();
});

const pass = (ms: number) => act(() => jest.advanceTimersByTimeAsync(ms));

test("while a pointer is down it follows so often and no oftener, and comes to the last value", async () => {
  const { rerender } = render(<Beside value={0} />);
  window.dispatchEvent(new Event("pointerdown"));
  const seen = new Set<number>();
  for (let step = 1; step <= 100; step++) {
    rerender(<Beside value={step} />);
    await pass(20);
    seen.add(drawn);
  }
  expect(seen.size).toBeGreaterThanOrEqual(14);
  expect(seen.size).toBeLessThanOrEqual(22);
  await pass(EVERY + 50);
  screen.getByText("beside 100");
});

test("where drawing it takes long it follows more seldom, so that it takes a tenth of the time, but at least twice a second", () => {
  expect(paceOf(EVERY, 20)).toBe(EVERY);
  expect(paceOf(EVERY, 17 + 12)).toBe(120);
  expect(paceOf(EVERY, 17 + 40)).toBe(400);
  expect(paceOf(EVERY, 1000)).toBe(500);
});

test("with no pointer down every value is shown at once, as keys that are held need it", () => {
  const { rerender } = render(<Beside value={0} />);
  for (let step = 1; step <= 5; step++) {
    rerender(<Beside value={step} />);
    screen.getByText(`beside ${step}`);
  }
});
