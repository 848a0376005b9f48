import { expect, test } from "@jest/globals";
import { chordOf, chordText, type Pressed } from "./chords";

const pressed = (key: string, code: string, mods = ""): Pressed => ({
  key,
  code,
  ctrlKey: mods.includes("c"),
  metaKey: mods.includes("m"),
  altKey: mods.includes("a"),
  shiftKey: mods.includes("s"),
});

test("letters are what they are: on a German keyboard Z lies where Y does elsewhere", () => {
  expect(chordOf(pressed("z", "KeyY", "c"), false)).toBe("Mod+Z");
  expect(chordOf(pressed("y", "KeyZ", "c"), false)).toBe("Mod+Y");
  expect(chordOf(pressed("Z", "KeyY", "cs"), false)).toBe("Mod+Shift+Z");
});

test("where letters aren't Latin they go by their place", () => {
  expect(chordOf(pressed("я", "KeyZ", "c"), false)).toBe("Mod+Z");
  expect(chordOf(pressed("σ", "KeyS", "a"), false)).toBe("Alt+S");
});

test("Mac keys on a Mac: ⌘ is what Ctrl is elsewhere, and Ctrl is another", () => {
  expect(chordOf(pressed("z", "KeyZ", "m"), true)).toBe("Mod+Z");
  expect(chordOf(pressed("z", "KeyZ", "c"), true)).toBe("Ctrl+Z");
  expect(chordOf(pressed("z", "KeyZ", "m"), false)).toBe("Meta+Z");
  // With ⌥ it writes other characters.
  expect(chordOf(pressed("ß", "KeyS", "a"), true)).toBe("Alt+S");
  expect(chordOf(pressed("∆", "KeyJ", "a"), true)).toBe("Alt+J");
});

test("a character that needs Shift is the same chord on every keyboard", () => {
  expect(chordOf(pressed("?", "Slash", "s"), false)).toBe("?");
  expect(chordOf(pressed("?", "Minus", "s"), false)).toBe("?");
  expect(chordOf(pressed("1", "Digit1", "s"), false)).toBe("1");
});

test("named keys keep their Shift", () => {
  expect(chordOf(pressed("ArrowLeft", "ArrowLeft", "as"), false)).toBe("Alt+Shift+ArrowLeft");
  expect(chordOf(pressed("PageUp", "PageUp", "s"), false)).toBe("Shift+PageUp");
  expect(chordOf(pressed(" ", "Space"), false)).toBe("Space");
});

test("chords are read as the machine writes them", () => {
  expect(chordText("Mod+Shift+Z", false)).toBe("Ctrl Shift Z");
  expect(chordText("Mod+Shift+Z", true)).toBe("⌘⇧Z");
  expect(chordText("Alt+ArrowLeft", false)).toBe("Alt ←");
  expect(chordText("+", false)).toBe("+");
});
