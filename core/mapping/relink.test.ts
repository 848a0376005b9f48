import { describe, expect, test } from "@jest/globals";
import { newSample, type Sample } from "../instrument";
import { Reads } from "../params/test-counted";
import { relink } from "./relink";

const shaOf = (text: string): string => Buffer.from(text.padEnd(32, "-")).toString("hex").slice(0, 64);
const sample = (path: string, more: Partial<Sample> = {}): Sample =>
  newSample({
    ...{ sha: shaOf(path), name: path.split("/").at(-1) ?? "", frames: 1000, peak: -6 },
    file: { path, root: null, loop: null, further: [], range: null, text: "" },
    ...more,
  });
const told = (missing: Sample[], candidates: Sample[]) =>
  relink(missing, candidates).map((r) => [r.missing.name, r.found.file?.path, r.by, r.doubt]);

describe("missing samples", () => {
  test("are found by content, whatever they are called now", () => {
    const lost = sample("Tubes/A3");
    expect(told([lost], [sample("other"), sample("renamed", { sha: lost.sha })])).toEqual([
      ["A3", "renamed", "content", ""],
    ]);
  });

  test("are found by as much of their path as is there, whatever the case", () => {
    const found = told(
      [sample("kit/soft/a3", { sha: shaOf("x") }), sample("kit/hard/a3", { sha: shaOf("y") })],
      [sample("moved/Kit/Hard/A3"), sample("moved/Kit/Soft/A3")],
    );
    expect(found).toEqual([
      ["a3", "moved/Kit/Soft/A3", "path", ""],
      ["a3", "moved/Kit/Hard/A3", "path", ""],
    ]);
  });

  test("are found by name; of several of one name by their length", () => {
    const lost = sample("old/a3", { sha: shaOf("x"), frames: 500 });
    expect(told([lost], [sample("p/a3", { frames: 500 }), sample("q/a3", { frames: 400 })])).toEqual([
      ["a3", "p/a3", "name", ""],
    ]);
    expect(told([lost], [sample("p/a3", { frames: 500 }), sample("q/a3", { frames: 500 })])).toEqual([]);
    expect(told([lost], [sample("p/a3", { frames: 400 })])).toEqual([
      ["a3", "p/a3", "name", "it is called so, but isn’t as long"],
    ]);
  });

  test("of which only the name was ever known are found by it", () => {
    const lost = sample("snd/bell", { sha: shaOf("x"), frames: 2, rate: 44100, peak: -120 });
    expect(told([lost], [sample("here/bell", { rate: 48000, frames: 9 })])).toEqual([
      ["bell", "here/bell", "name", ""],
    ]);
  });

  test("are found by a length that no other has", () => {
    const lost = sample("a", { sha: shaOf("x"), frames: 777 });
    expect(told([lost], [sample("b", { frames: 777 }), sample("c")])).toEqual([
      ["a", "b", "length", "only its length speaks for it"],
    ]);
    expect(told([lost], [sample("b", { frames: 777 }), sample("c", { frames: 777 })])).toEqual([]);
  });

  test("of thousands are found without comparing each with each", () => {
    const many = Array.from({ length: 5000 }, (_, i) => sample(`kit/${i % 50}/n${i}`, { sha: shaOf(`m${i}`) }));
    const reads = new Reads();
    const there = many.map((_, i) => reads.of(sample(`else/${i % 50}/n${i}`)));
    const read = reads.during(() => expect(relink(many, there)).toHaveLength(5000));
    expect(read).toBeLessThan(20 * there.length);
  });
});
