/** @jest-environment @happy-dom/jest-environment */
import { afterEach, beforeEach, expect, test } from "@jest/globals";
import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { Tooltip } from "radix-ui";
import {
  findUnit,
  History,
  newInstrument,
  rowsOf,
  setSource,
  setTable,
  together,
  type Unit,
} from "../../core/instrument";
import { unitSpec } from "../../core/units";
import { chooseRow } from "../state/chosen-row";
import { session } from "../state/session";
import { useUnit } from "../state/use-session";
import { RowTable } from "./RowTable";

const SOURCE = "layers/main/source";
const MOST = unitSpec("partials").table?.most ?? 0;
const rows = () => rowsOf(findUnit(session.instrument as never, SOURCE) as Unit);

function Shown() {
  const unit = useUnit(SOURCE);
  return unit && <RowTable address={SOURCE} unit={unit} />;
}
const open = (count: number) => {
  const table = Array.from({ length: count }, (_, i) => ({ ratio: i + 1, level: 0 - i }));
  const doc = together("", [setSource("main", "partials"), setTable(SOURCE, table, "")]).apply(
    newInstrument("one", "Bench"),
  );
  act(() => session.store.setState({ history: History.of(doc) }));
  chooseRow(SOURCE, 0);
  render(<Shown />, { wrapper: Tooltip.Provider });
};
const press = (name: string | RegExp) => fireEvent.click(screen.getByRole("button", { name }));
/** Types into a field of the list. */
const type = (label: string, text: string) => {
  const field = screen.getByRole("textbox", { name: label });
  fireEvent.focus(field);
  fireEvent.change(field, { target: { value: text } });
  fireEvent.keyDown(field, { key: "Enter" });
  fireEvent.blur(field);
};

beforeEach(() => chooseRow(SOURCE, 0));
afterEach(cleanup);

test("the rows are gone through one by one, a new one follows the last and is looked at, one that is removed makes room", () => {
  open(3);
  screen.getByText(`3 of ${MOST}`);
  press("The partial after");
  press("The partial after");
  screen.getByText("partial 3");
  expect(screen.getByRole("button", { name: "The partial after" }).getAttribute("aria-disabled")).toBe("true");
  press("partial");
  expect(rows()).toHaveLength(4);
  screen.getByText("partial 4");
  press("Remove partial 4");
  expect(rows().map((r) => r.ratio)).toEqual([1, 2, 3]);
  screen.getByText("partial 3");
  act(() => session.undo());
  expect(rows()).toHaveLength(4);
});

test("in the list values are typed, each a step of undo; what can't be read changes nothing", () => {
  open(3);
  press("List");
  type("Level of partial 2", "-12,5 dB");
  type("Ratio of partial 3", "5/4");
  expect(rows()[1]?.level).toBe(-12.5);
  const before = rows();
  type("Level of partial 1", "loud");
  expect(rows()).toBe(before);
  act(() => session.undo());
  act(() => session.undo());
  expect(rows().map((r) => [r.ratio, r.level])).toEqual([
    [1, 0],
    [2, -1],
    [3, -2],
  ]);
});

test("a row that is locked says so, and stays as it is in what is done with all", () => {
  open(3);
  press("List");
  press("Lock partial 2");
  expect(screen.getByRole("button", { name: "Lock partial 2" }).getAttribute("aria-pressed")).toBe("true");
  expect(rows().map((r) => (r.locked ?? 0) > 0)).toEqual([false, true, false]);
  press("Lock partial 2");
  expect(rows().some((r) => (r.locked ?? 0) > 0)).toBe(false);
});

test("of many rows sixteen are listed at once; a full table takes no more", () => {
  open(MOST);
  press("List");
  expect(screen.getAllByRole("textbox", { name: /^Level of partial/ })).toHaveLength(16);
  screen.getByText(`1–16 of ${MOST}`);
  press("Rows after");
  screen.getByText(`17–32 of ${MOST}`);
  screen.getByRole("textbox", { name: "Level of partial 17" });
  expect(screen.getByRole("button", { name: "partial" }).getAttribute("aria-disabled")).toBe("true");
});
