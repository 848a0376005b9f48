/** @jest-environment @happy-dom/jest-environment */
import { afterEach, expect, jest, test } from "@jest/globals";
import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { createMemoryRouter, RouterProvider } from "react-router";
import { pageRoute } from "./page-route";

afterEach(cleanup);

const Bench = () => <h1>Bench</h1>;

/** Shows the page at /bench, which is loaded by `load`. */
async function visit(load: () => Promise<typeof Bench>) {
  const router = createMemoryRouter([{ path: "/", element: <p>Door</p> }, pageRoute("/bench", load)]);
  await act(async () => void render(<RouterProvider router={router} />));
  await act(() => router.navigate("/bench"));
  return router;
}

test("a page that is there is shown", async () => {
  await visit(async () => Bench);
  expect(screen.getByRole("heading", { name: "Bench" })).toBeTruthy();
});

test("a page that can't be fetched says why, is tried again when asked and when one comes back", async () => {
  let there = false;
  let asked = 0;
  const router = await visit(async () => {
    asked += 1;
    if (!there) throw new Error("the server is away");
    return Bench;
  });
  expect(screen.getByText(/the server is away\. Everything else goes on/)).toBeTruthy();
  const before = asked;
  await act(async () => void fireEvent.click(screen.getByRole("button", { name: "Try again" })));
  expect(asked).toBe(before + 1);
  expect(screen.queryByRole("heading", { name: "Bench" })).toBeNull();
  there = true;
  await act(() => router.navigate("/"));
  await act(() => router.navigate("/bench"));
  expect(screen.getByRole("heading", { name: "Bench" })).toBeTruthy();
});

test("a page that can't be fetched is tried again once the network is back", async () => {
  let there = false;
  await visit(async () => {
    if (!there) throw new Error("the server is away");
    return Bench;
  });
  there = true;
  await act(async () => void dispatchEvent(new Event("online")));
  expect(screen.getByRole("heading", { name: "Bench" })).toBeTruthy();
});

test("a page that fails while it is shown says so", async () => {
  const complaints = jest.spyOn(console, "error").mockImplementation(() => {});
  await visit(async () => () => {
    throw new Error("a spoke is missing");
  });
  expect(screen.getByText(/a spoke is missing/)).toBeTruthy();
  expect(complaints).toHaveBeenCalled();
  complaints.mockRestore();
});
