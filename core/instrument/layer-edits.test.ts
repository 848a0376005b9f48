import { describe, expect, test } from "@jest/globals";
import { newUnit } from "./defaults";
import type { Instrument } from "./instrument";
import { changeLayer, chosenLayer, moveLayer, removeLayer } from "./layer-edits";
import { addUnit, setParam } from "./param-edits";
import { made } from "./test-groups";

describe("layers of a set", () => {
  const withSet = () => {
    const set = addUnit("sets", newUnit("set", "blend", "Blend")).apply(made());
    const both = changeLayer("body", { set: "blend" }).apply(changeLayer("main", { set: "blend" }).apply(set));
    return setParam(both, "sets/blend/selected", 2).apply(both);
  };
  const chosen = (doc: Instrument) => doc.sets[0] && chosenLayer(doc, doc.sets[0])?.id;

  test("the chosen one stays it, wherever it moves and whoever leaves the set", () => {
    expect(chosen(withSet())).toBe("body");
    expect(chosen(moveLayer("body", 0).apply(withSet()))).toBe("body");
    expect(chosen(changeLayer("main", { set: null }).apply(withSet()))).toBe("body");
    expect(chosen(removeLayer("main").apply(withSet()))).toBe("body");
  });

  test("when the chosen one goes another is: never none", () => {
    expect(chosen(changeLayer("body", { set: null }).apply(withSet()))).toBe("main");
    expect(chosen(removeLayer("body").apply(withSet()))).toBe("main");
  });
});
