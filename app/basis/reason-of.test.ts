import { expect, test } from "@jest/globals";
import { reasonOf } from "./reason-of";

test.each<[unknown, RegExp]>([
  [new DOMException("", "QuotaExceededError"), /^the browser’s storage is full/],
  // As it comes out of a worker, and as libraries pass it on.
  [Object.assign(new Error(""), { name: "QuotaExceededError" }), /^the browser’s storage is full/],
  ["QuotaExceededError: the current transaction exceeded its quota", /^the browser’s storage is full/],
  [new DOMException("A requested file could not be read", "NotReadableError"), /can’t be read any more/],
  [new DOMException("Unable to load a worklet's module.", "AbortError"), /^Unable to load a worklet's module$/],
  [new DOMException("", "AbortError"), /^it was broken off$/],
  [new RangeError("it is longer than 3 h."), /^it is longer than 3 h$/],
  [new TypeError(""), /^TypeError$/],
  ["why not", /^why not$/],
  [{}, /doesn’t say why/],
  [undefined, /doesn’t say why/],
  [null, /doesn’t say why/],
])("%p has a reason that people can read", (error, reason) => {
  expect(reasonOf(error)).toMatch(reason);
});

test("no reason is empty, whatever was thrown", () => {
  for (const error of ["", new Error(), new Error(" "), { message: "" }, { name: "" }, 0, false])
    expect(reasonOf(error)).not.toBe("");
});
