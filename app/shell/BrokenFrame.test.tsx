/** @jest-environment @happy-dom/jest-environment */
import { afterEach, expect, jest, test } from "@jest/globals";
import { act, cleanup, render, screen } from "@testing-library/react";
import { createMemoryRouter, RouterProvider } from "react-router";
import { session } from "../state/session";
import { BrokenFrame } from "./BrokenFrame";

afterEach(cleanup);

function Frame(): never {
  throw new Error("a spoke is missing");
}

async function broken() {
  jest.spyOn(console, "error").mockImplementation(() => {});
  const router = createMemoryRouter([{ path: "/", element: <Frame />, errorElement: <BrokenFrame /> }]);
  await act(async () => void render(<RouterProvider router={router} />));
}

test("a frame that fails says why, saves what was done and offers to load again", async () => {
  const saved = jest.spyOn(session, "save").mockResolvedValue(undefined);
  await broken();
  expect(screen.getByText(/^a spoke is missing\. What you have done is saved/)).toBeTruthy();
  expect(saved).toHaveBeenCalledTimes(1);
  expect(screen.getByRole("button", { name: "Load again" })).toBeTruthy();
});

test("it says that it is saved only once it is, and that it isn't where that fails", async () => {
  jest.spyOn(session, "save").mockResolvedValue(undefined);
  session.store.setState({ saved: "saving" });
  await broken();
  expect(screen.getByText(/is being saved/)).toBeTruthy();
  act(() => session.store.setState({ saved: "failed" }));
  expect(screen.getByText(/could not be saved/)).toBeTruthy();
  act(() => session.store.setState({ saved: "saved" }));
  expect(screen.getByText(/is saved in this browser/)).toBeTruthy();
});
