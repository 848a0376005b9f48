import { describe, expect, test } from "@jest/globals";
import { newLoop, newZone, type Zone } from "../../../core/instrument";
import { coursePicture, timeScale } from "./course";

const zone = (given: Partial<Zone>): Zone => ({ ...newZone({ id: "z", sample: "s", end: 1000 }), ...given });
/** Where it goes, as text: `>` plays, `~` leaps; after the key is let go behind `|`. */
const told = (given: Partial<Zone>): string => {
  const { lines } = coursePicture(zone(given));
  return lines
    .map(({ from, to, kind }) => `${kind === "after" ? "|" : ""}${from}${kind === "jump" ? "~" : ">"}${to}`)
    .join(" ");
};

describe("the course as it is drawn", () => {
  test("without a loop: once from start to end", () => {
    expect(told({ start: 100 })).toBe("100>1000");
    expect(coursePicture(zone({})).letGo).toBeNull();
  });

  test("forward without end: round and round, and on in the loop once it is let go", () => {
    expect(told({ loop: newLoop({ start: 200, end: 600 }) })).toBe(
      "0>600 600~200 200>600 600~200 200>600 600~200 200>600 600~200 |200>600",
    );
  });

  test("a reversed zone goes from its end to its start, and round its loop the other way", () => {
    expect(told({ start: 100, reverse: true })).toBe("1000>100");
    expect(told({ reverse: true, loop: newLoop({ start: 200, end: 600, times: 2 }) })).toBe(
      "1000>200 200~600 600>200 200>0",
    );
  });

  test("until let go: then on to the end", () => {
    expect(told({ loop: newLoop({ start: 200, end: 600, until: "release" }) })).toMatch(/200>600 \|600>1000$/);
  });

  test("there and back turns without a leap; backward leaps to its end", () => {
    expect(told({ loop: newLoop({ start: 200, end: 600, mode: "alternating", times: 3 }) })).toBe(
      "0>600 600>200 200>600 600>1000",
    );
    expect(told({ loop: newLoop({ start: 200, end: 600, mode: "backward", times: 3 }) })).toBe(
      "0>600 600>200 200~600 600>200 200>1000",
    );
  });

  test("later is always lower, and a long way leaves room for short rounds", () => {
    const picture = coursePicture(zone({ loop: newLoop({ start: 900, end: 910 }) }));
    const scale = timeScale(picture);
    expect([scale(0), scale(picture.total)]).toEqual([0, 1]);
    for (let at = 1; at <= picture.total; at++) expect(scale(at)).toBeGreaterThanOrEqual(scale(at - 1));
    expect(scale(910)).toBeLessThan(0.6);
  });

  test("a release loop comes after, as often as it says", () => {
    const given = {
      loop: newLoop({ start: 200, end: 400 }),
      releaseLoop: newLoop({ start: 700, end: 800, times: 2 }),
    };
    expect(told(given)).toMatch(/200>400 \|400>800 800~700 \|700>800 \|800>1000$/);
    const picture = coursePicture(zone(given));
    expect(picture.letGo).toBe(400 + 3 * 200);
    expect(picture.total).toBe(400 + 3 * 200 + 400 + 100 + 200);
  });
});
