import { readFileSync } from "node:fs";
import { expect, test } from "@jest/globals";
import { withLists } from "./format-lists";

const text = readFileSync("docs/format.md", "utf8");

test("the lists of docs/format.md are those of the registry", () => {
  expect(withLists(text)).toBe(text);
  expect(text.match(/<!-- list: \w+ -->_\w+_|<!-- list: \w+ -->`\w+`/g)).toHaveLength(
    text.split("<!-- list:").length - 1,
  );
});

test("no cell of its tables is longer than a sentence", () => {
  const cells = text
    .split("\n")
    .filter((line) => line.startsWith("|"))
    .flatMap((line) => line.split(" | "));
  expect(cells.length).toBeGreaterThan(20);
  for (const cell of cells) expect(cell.trim()).not.toMatch(/\. [A-Z]/);
});

test("a list that nobody makes is misuse", () => {
  expect(() => withLists("<!-- list: saddles --><!-- end -->")).toThrow(RangeError);
});
