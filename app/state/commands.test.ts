import { afterEach, expect, test } from "@jest/globals";
import { type Command, commandOf, useScopes } from "./commands";

const command = (id: string, chord: string, why: string | null = null): Command => ({
  id,
  label: id,
  chords: [chord],
  why: () => why,
  run: () => {},
});
const scope = (name: string, ...commands: Command[]) => ({ name, commands });

afterEach(() => useScopes.setState({ scopes: [] }));

test("a station's keys go before those of the frame, and free them again", () => {
  const frame = scope("Frame", command("undo", "Mod+Z"), command("all", "Mod+A"));
  const station = scope("Map", command("zones", "Mod+A"));
  useScopes.setState({ scopes: [station, frame] });
  expect(commandOf("Mod+A")?.id).toBe("zones");
  expect(commandOf("Mod+Z")?.id).toBe("undo");
  useScopes.setState({ scopes: [frame] });
  expect(commandOf("Mod+A")?.id).toBe("all");
});

test("what can't be done now gives its key to whoever can", () => {
  useScopes.setState({
    scopes: [scope("Cut", command("a", "Enter", "select a slice first")), scope("Frame", command("b", "Enter"))],
  });
  expect(commandOf("Enter")?.id).toBe("b");
  expect(commandOf("F9")).toBeNull();
});
