/** @jest-environment @happy-dom/jest-environment */
import { afterEach, expect, jest, test } from "@jest/globals";
import { act, cleanup, render, screen } from "@testing-library/react";
import { useSoon } from "./use-soon";

const Large = () => <p>{useSoon() ? "all of it" : "its frame"}</p>;

afterEach(() => {
  cleanup();
  jest.useRealTimers();
});

test("the frame is drawn first, the rest in a later task", async () => {
  render(<Large />);
  screen.getByText("its frame");
  await screen.findByText("all of it");
});

test("whoever is gone before that draws nothing more", async () => {
  const complained = jest.spyOn(console, "error").mockImplementation(() => {});
  const { unmount } = render(<Large />);
  unmount();
  await act(async () => {
    await new Promise((done) => requestAnimationFrame(done));
    await new Promise((done) => setTimeout(done));
  });
  expect(complained).not.toHaveBeenCalled();
  complained.mockRestore();
});
