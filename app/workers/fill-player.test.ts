import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { fillPlayer, MOST_BYTES } from "./fill-player";

const file = (bytes: Uint8Array) => new Blob([Uint8Array.from(bytes)]);

test("the package comes out of the page as it went in, whatever it holds", async () => {
  const comesOut = async (bytes: Uint8Array) => {
    const page = (await fillPlayer("<title>%TITLE%</title><script>%PACKAGE%</script>", "x", file(bytes))).join("");
    const inside = /<script>(.*)<\/script>/.exec(page)?.[1] ?? "";
    expect(Buffer.from(inside, "base64").equals(Buffer.from(bytes))).toBe(true);
  };
  await fc.assert(fc.asyncProperty(fc.uint8Array({ maxLength: 70000, size: "max" }), comesOut), { numRuns: 20 });
  // More than one stretch of it.
  await comesOut(Uint8Array.from({ length: 3 * 8192 * 128 + 5 }, (_, i) => i * 7));
});

test("a name can't break out of its place", async () => {
  const parts = await fillPlayer(
    "<title>%TITLE%</title>%PACKAGE%",
    `</title><script>alert("x")</script>&'`,
    file(new Uint8Array(0)),
  );
  const page = parts.join("");
  expect(page).not.toContain("<script>");
  expect(page.match(/<\/title>/g)).toHaveLength(1);
  await expect(fillPlayer("no places", "x", file(new Uint8Array(0)))).rejects.toThrow("no place");
});

test("a page that no browser could open isn't made, and why is said", async () => {
  const large = { size: MOST_BYTES + 1 } as Blob;
  await expect(fillPlayer("%TITLE%%PACKAGE%", "x", large)).rejects.toThrow(/take 380 MB.*ship the package/);
});
