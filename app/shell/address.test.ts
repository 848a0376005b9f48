import { describe, expect, jest, test } from "@jest/globals";

jest.unstable_mockModule("../state/open-instrument", () => ({ openStored: async () => true }));
jest.unstable_mockModule("../state/session", () => ({ session: { instrument: null, store: {} } }));
jest.unstable_mockModule("../state/use-session", () => ({ useInstrument: () => "" }));
const { looksOf, searchOf } = await import("./address");

const VIEW = {
  takeId: "t 1",
  takePanel: "room",
  zoneIds: new Set(["a", "b"]),
  mapPanel: "list",
  soundUnit: "layers/main/stages/filter",
  faceItem: "d&1",
} as const;

describe("an address", () => {
  test.each(["/take", "/cut", "/map", "/loop", "/sound", "/face"])("of %s leads back to what was looked at", (path) => {
    const search = searchOf(path, "x", VIEW);
    expect(new URLSearchParams(search).get("of")).toBe("x");
    const looks = looksOf(path, search);
    for (const [key, value] of Object.entries(looks)) expect(value).toEqual(VIEW[key as keyof typeof VIEW]);
    expect(Object.keys(looks).length).toBeGreaterThan(0);
  });

  test("of another station says nothing of these", () => {
    expect(searchOf("/rules", "x", VIEW)).toBe("?of=x");
    expect(looksOf("/rules", "?of=x&take=t")).toEqual({});
  });

  test("that is odd is taken as far as it can be", () => {
    expect(looksOf("/map", "?zones=..&show=nonsense")).toEqual({ zoneIds: new Set(), mapPanel: "field" });
    expect(looksOf("/take", "")).toEqual({ takeId: null, takePanel: "takes" });
  });

  test("of thousands of zones names a few", () => {
    const zoneIds = new Set(Array.from({ length: 5000 }, (_, i) => `z${i}`));
    expect(searchOf("/map", "x", { ...VIEW, zoneIds }).length).toBeLessThan(200);
  });
});
