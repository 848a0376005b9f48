import { expect, test } from "@jest/globals";
import { dateText } from "./date-text";

test("a moment stands as year, month, day, hour and minute of the clock on the wall", () => {
  for (const moment of [new Date(2026, 0, 2, 3, 4, 59), new Date(1999, 11, 31, 23, 59), new Date(2024, 1, 29, 0, 0)]) {
    const text = moment.toLocaleString("sv", { dateStyle: "short", timeStyle: "short" });
    expect(dateText(moment.getTime())).toBe(text);
    expect(dateText(moment.toISOString())).toBe(text);
  }
});

test("what is no moment is not known", () => {
  expect(dateText("")).toBe("not known");
  expect(dateText("last summer")).toBe("not known");
});
