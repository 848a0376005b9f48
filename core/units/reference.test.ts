import { readFileSync } from "node:fs";
import { describe, expect, test } from "@jest/globals";
import { UNITS } from "./list";
import { reference, referenceText } from "./reference";

const units = reference();
const lines = units.flatMap((u) => u.lines);

describe("the reference", () => {
  test("has every unit and every parameter of the registry, each once", () => {
    expect(units.map((u) => u.kind)).toEqual(Object.keys(UNITS));
    expect(lines.length).toBe(
      Object.values(UNITS).reduce((n, u) => n + u.params.length + ("table" in u ? u.table.columns.length : 0), 0),
    );
    expect(new Set(lines.map((l) => l.id)).size).toBe(lines.length);
  });

  test("says units, ranges and initial values as controls do", () => {
    expect(lines.find((l) => l.id === "filter/cutoff")).toEqual({
      id: "filter/cutoff",
      label: "Cutoff",
      help: "Cutoff frequency.",
      range: "20.0 Hz to 20.00 kHz",
      initial: "18.00 kHz",
      modulated: true,
    });
    expect(lines.find((l) => l.id === "play/voiceMode")?.range).toBe("Poly, Mono, Legato");
    expect(lines.find((l) => l.id === "filter/on")?.range).toBe("off, on");
    expect(units.find((u) => u.kind === "filter")?.where).toBe("in each voice");
  });

  test("every help is one or a few short sentences that end in a full stop", () => {
    for (const { id, help } of lines) {
      expect([id, /^\p{Lu}.*\.$/su.test(help) || /^\d/.test(help)]).toEqual([id, true]);
      expect([id, help.length <= 160]).toEqual([id, true]);
    }
  });

  test("docs/reference.md is the one that the code makes", () => {
    expect(readFileSync("docs/reference.md", "utf8")).toBe(referenceText());
  });

  test("no unit has two parameters of the same name", () => {
    for (const u of units) {
      const own = u.lines.filter((l) => !l.id.includes("/rows/")).map((l) => l.label);
      expect([u.kind, own.filter((label, i) => own.indexOf(label) !== i)]).toEqual([u.kind, []]);
    }
  });
});
