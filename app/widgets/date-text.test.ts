import { expect, test } from "@jest/globals";
import { dateText } from "./date-text";

// biome-ignore lint/style/noRestrictedGlobals: moments that are given, not the present one
const At = Date;

test("a moment stands as year, month, day, hour and minute of the clock on the wall", () => {
  for (const moment of [new At(2026, 0, 2, 3, 4, 59), new At(1999, 11, 31, 23, 59), new At(2024, 1, 29, 0, 0)]) {
    const text = moment.toLocaleString("sv", { dateStyle: "short", timeStyle: "short" });
    expect(dateText(moment.getTime())).toBe(text);
    expect(dateText(moment.toISOString())).toBe(text);
  }
});

test("what is no moment is not known", () => {
  expect(dateText("")).toBe("not known");
  expect(dateText("last summer")).toBe("not known");
});
