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

test("a frame that fails says why, saves what was done and offers to load again", async () => {
  jest.spyOn(console, "error").mockImplementation(() => {});
  const saved = jest.spyOn(session, "save").mockResolvedValue(undefined as never);
  const router = createMemoryRouter([{ path: "/", element: <Frame />, errorElement: <BrokenFrame /> }]);
  await act(async () => void render(<RouterProvider router={router} />));
  expect(screen.getByText(/^a spoke is missing\. What you have done/)).toBeTruthy();
  expect(saved).toHaveBeenCalledTimes(1);
  expect(screen.getByRole("button", { name: "Load again" })).toBeTruthy();
});
