/** What of a keyboard event tells which keys were pressed together. */
export type Pressed = Pick<KeyboardEvent, "key" | "code" | "ctrlKey" | "metaKey" | "altKey" | "shiftKey">;

/** Whether this is a Mac, whose commands go with ⌘ in place of Ctrl. */
export const isMac = (): boolean => /mac|iphone|ipad/i.test(globalThis.navigator?.platform ?? "");

const LETTER = /^Key([A-Z])$/;
const DIGIT = /^Digit(\d)$/;

/**
 * The chord of an event, such as `Mod+Shift+Z`, `Alt+ArrowLeft`, `Space`, `?`: Mod is ⌘ on a Mac and Ctrl elsewhere. Letters are what they are on this
 * keyboard, wherever they lie; where its letters aren't Latin ones, they go by their place. Of other characters Shift is a part and isn't named.
 */
export function chordOf({ key, code, ctrlKey, metaKey, altKey, shiftKey }: Pressed, mac: boolean): string {
  const parts: string[] = [];
  if (mac ? metaKey : ctrlKey) parts.push("Mod");
  if (mac ? ctrlKey : metaKey) parts.push(mac ? "Ctrl" : "Meta");
  if (altKey) parts.push("Alt");
  const place = LETTER.exec(code)?.[1] ?? DIGIT.exec(code)?.[1];
  // With Alt a Mac writes other characters.
  const odd = key.length === 1 && (key > "~" || (altKey && mac));
  const named = odd && place ? place : key === " " ? "Space" : key.length === 1 ? key.toUpperCase() : key;
  if (shiftKey && (named.length > 1 || /[A-Z]/.test(named))) parts.push("Shift");
  return [...parts, named].join("+");
}

const ON_MAC: Readonly<Record<string, string>> = { Mod: "⌘", Ctrl: "⌃", Alt: "⌥", Shift: "⇧" };
const NAMES: Readonly<Record<string, string>> = {
  Mod: "Ctrl",
  ArrowLeft: "←",
  ArrowRight: "→",
  ArrowUp: "↑",
  ArrowDown: "↓",
  Escape: "Esc",
};

/** A chord as people read it: `Ctrl Shift Z`, on a Mac `⌘⇧Z`. */
export function chordText(chord: string, mac = isMac()): string {
  const parts = chord === "+" ? ["+"] : chord.split("+");
  return mac
    ? parts.map((part) => ON_MAC[part] ?? NAMES[part] ?? part).join("")
    : parts.map((part) => NAMES[part] ?? part).join(" ");
}
