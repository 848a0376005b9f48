import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { fillPlayer } from "./fill-player";

test("the package comes out of the page as it went in, whatever it holds", () => {
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 70000, size: "max" }), (bytes) => {
      const page = fillPlayer("<title>%TITLE%</title><script>%PACKAGE%</script>", "x", bytes).join("");
      const inside = /<script>(.*)<\/script>/.exec(page)?.[1] ?? "";
      expect(Buffer.from(inside, "base64").equals(Buffer.from(bytes))).toBe(true);
    }),
    { numRuns: 30 },
  );
});

test("a name can't break out of its place", () => {
  const page = fillPlayer(
    "<title>%TITLE%</title>%PACKAGE%",
    `</title><script>alert("x")</script>&'`,
    new Uint8Array(0),
  ).join("");
  expect(page).not.toContain("<script>");
  expect(page.match(/<\/title>/g)).toHaveLength(1);
  expect(() => fillPlayer("no places", "x", new Uint8Array(0))).toThrow("no place");
});
