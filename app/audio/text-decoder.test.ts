import { expect, test } from "@jest/globals";
import fc from "fast-check";

import { Utf8Decoder } from "./text-decoder";

test("the worklet's decoder reads UTF-8 as the real one does, and takes damage without failing", () => {
  const ours = new Utf8Decoder();
  const real = TextDecoder;
  fc.assert(
    fc.property(fc.string({ unit: "binary", maxLength: 60 }), (text) => {
      const bytes = new TextEncoder().encode(text);
      expect(ours.decode(bytes)).toBe(new real().decode(bytes));
    }),
  );
  fc.assert(fc.property(fc.uint8Array({ maxLength: 40 }), (bytes) => expect(typeof ours.decode(bytes)).toBe("string")));
});
