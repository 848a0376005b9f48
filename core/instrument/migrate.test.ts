import { expect, test } from "@jest/globals";
import { migrate } from "./migrate";
import { made } from "./test-groups";

test("a document of version 8 opens: layers and groups have no mark and no note", () => {
  const { layers, face, ...rest } = made();
  const bind = face.items[0]?.moves[0]?.address;
  const items = face.items.map((item) => ({ ...item, bind }));
  const bare = layers.map(({ mark: _m, note: _n, ...layer }) => ({
    ...layer,
    groups: layer.groups.map(({ mark: _gm, note: _gn, ...group }) => group),
  }));
  const { instrument, faults } = migrate({ ...rest, face: { ...face, items }, version: 8, layers: bare });
  expect(faults).toEqual([]);
  expect(instrument).toEqual(made());
});
