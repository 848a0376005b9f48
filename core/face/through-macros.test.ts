import { expect, test } from "@jest/globals";
import {
  addFaceItem,
  addressInTable,
  checkInstrument,
  findParam,
  type Instrument,
  moving,
  newInstrument,
  setParam,
  setSource,
  together,
} from "../instrument";
import { modulated, type NumberParam } from "../params";
import { checkFace } from "./face-check";
import { throughMacros } from "./through-macros";

const CUTOFF = "layers/main/stages/filter/cutoff";
const cell = (row: number) => addressInTable("layers/main/source", row, "level");

const made = (...moves: readonly string[]): Instrument =>
  together("", [
    setSource("main", "partials"),
    addFaceItem({ id: "a", kind: "columns", moves: moving(...moves) }),
  ]).apply(setParam(newInstrument("i", "I"), CUTOFF, 1234).apply(newInstrument("i", "I")));

let n = 0;
const id = () => `m${++n}`;

/** What a parameter comes to with the one macro that moves it. */
function heardAt(doc: Instrument, address: string): number {
  const found = findParam(doc, address);
  const route = doc.routes.find((r) => r.target === address);
  const macro = Number(findParam(doc, `${route?.source}/value`)?.value);
  return modulated(found?.spec as NumberParam, Number(found?.value), (route?.amount ?? 0) * macro);
}

test("macros stand between: the sound stays as it is, and the item goes over the same range", () => {
  const addresses = [CUTOFF, cell(0), cell(3)];
  const doc = made(...addresses);
  const item = doc.face.items[0];
  const edit = item && throughMacros(doc, item, id);
  const next = edit?.apply(doc) ?? doc;
  expect(checkInstrument(next)).toMatchObject({ ok: true });
  expect(next.macros).toHaveLength(doc.macros.length + 3);
  expect(next.face.items[0]?.moves.every((m) => m.address.startsWith("macros/"))).toBe(true);
  for (const address of addresses)
    expect(heardAt(next, address)).toBeCloseTo(Number(findParam(doc, address)?.value), 6);
  expect(checkFace(next, id)).toEqual([]);
  const cutoff = findParam(doc, CUTOFF)?.spec as NumberParam;
  const moved = setParam(next, next.face.items[0]?.moves[0]?.address ?? "", 1).apply(next);
  expect(heardAt(moved, CUTOFF)).toBeCloseTo(cutoff.max, 3);
});

test("what can’t be routed to, or is a macro already, is left as it is", () => {
  for (const address of ["macros/macro1/value", "layers/main/strip/voices", "layers/main/stages/filter/type"]) {
    const doc = made(address);
    const item = doc.face.items[0];
    expect(item && throughMacros(doc, item, id)).toBeNull();
  }
});
