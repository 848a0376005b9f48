import { describe, expect, test } from "@jest/globals";
import { newLayer } from "../../core/instrument";
import { aboutMix, MixWatch } from "./mix-watch";

const layers = [newLayer("a", "Body"), newLayer("b", "Air"), newLayer("c", "Mallet")];
const db = (level: number) => 10 ** (level / 20);

describe("how layers stand to each other", () => {
  test("the most of a sound is kept while it lasts; another sound begins anew", () => {
    const watch = new MixWatch();
    watch.take({ "layers/a": 0.1, "layers/a/source": 0.9 }, 0, 0);
    watch.take({ "layers/a": 0.5, "layers/b": 0.01 }, -3, 300);
    watch.take({ "layers/a": 0.2, "layers/b": 0.002 }, 0, 600);
    expect(watch.store.getState()).toEqual({ peaks: { a: 0.5, b: 0.01 }, limited: -3 });
    watch.take({ "layers/a": 0 }, 0, 900);
    expect(watch.store.getState().peaks.a).toBe(0.5);
    watch.take({ "layers/a": 0.3 }, 0, 2000);
    expect(watch.store.getState()).toEqual({ peaks: { a: 0.3 }, limited: 0 });
    watch.take(null, -9, 4000);
    expect(watch.store.getState().limited).toBe(0);
  });

  test("says which nobody hears, which is silent, what the limiter caught; nothing of one that only feeds others", () => {
    const peaks = { a: db(-6), b: db(-37), c: 0 };
    expect(aboutMix({ peaks, limited: 0 }, layers)).toEqual([
      "Air is 31 dB below Body: hardly anybody will hear it.",
      "Mallet is silent on these keys.",
    ]);
    const feeds = layers.map((l) =>
      l.id === "c" ? { ...l, strip: { ...l.strip, params: { ...l.strip.params, mute: 1 } } } : l,
    );
    expect(aboutMix({ peaks: { ...peaks, b: db(-20) }, limited: -4.25 }, feeds)).toEqual([
      "The limiter caught 4.3 dB: turn something down if it isn’t meant.",
    ]);
    expect(aboutMix({ peaks: {}, limited: 0 }, layers)).toEqual([]);
  });
});
