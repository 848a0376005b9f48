import { expect, test } from "@jest/globals";
import { sha256Of } from "../../core/formats";
import { hashOf } from "./hash-of";

test("the browser's hash and our own are the same, also where it offers none", async () => {
  const bytes = Uint8Array.from({ length: 100003 }, (_, i) => (i * 31 + (i >> 7)) & 255);
  expect(await hashOf(bytes)).toBe(sha256Of(bytes));
  expect(await hashOf(new Uint8Array(0))).toBe("e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855");
  const { crypto } = globalThis;
  Object.defineProperty(globalThis, "crypto", { value: undefined, configurable: true });
  try {
    expect(await hashOf(bytes)).toBe(sha256Of(bytes));
  } finally {
    Object.defineProperty(globalThis, "crypto", { value: crypto, configurable: true });
  }
});
