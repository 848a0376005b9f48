import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { bent, unbent } from ".";

const share = fc.double({ min: 0, max: 1, noNaN: true });

test("the way along a bent line and back", () => {
  fc.assert(
    fc.property(share, fc.double({ min: -1, max: 1, noNaN: true }), (place, bend) => {
      expect(bent(unbent(place, bend), bend)).toBeCloseTo(place, 6);
    }),
    { seed: 4 },
  );
});
