import { expect, test } from "@jest/globals";
import { rankOf } from "./rank";

test("a command is found by its name, by parts of it and by what people call it; by nothing else", () => {
  expect(rankOf("Sound Add a delay", "delay")).toBeGreaterThan(0.1);
  expect(rankOf("Sound Add a delay", "echo")).toBeGreaterThan(0);
  expect(rankOf("Sound Add a delay", "delay")).toBeGreaterThan(rankOf("Sound Add a delay", "echo"));
  expect(rankOf("Sound Add reverb", "room")).toBeGreaterThan(0);
  expect(rankOf("Sound Add reverb", "volume")).toBe(0);
  expect(rankOf("Take Record", "zzz")).toBe(0);
  for (const name of ["What the wave shows Both channels together", "Everywhere Record, or end the recording"])
    expect(rankOf(name, "echo")).toBe(0);
  expect(rankOf("Everywhere Record, or end the recording", "rec")).toBeGreaterThan(0.1);
  expect(rankOf("Everywhere Go to Sound", "go sou")).toBeGreaterThan(0.1);
});
