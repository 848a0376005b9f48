/** The letters in the order of a keyboard's keys, from the left: where they lie counts, not what is printed on them. */
const NOTES = [
  "KeyA",
  "KeyW",
  "KeyS",
  "KeyE",
  "KeyD",
  "KeyF",
  "KeyT",
  "KeyG",
  "KeyY",
  "KeyH",
  "KeyU",
  "KeyJ",
  "KeyK",
  "KeyO",
  "KeyL",
  "KeyP",
  "Semicolon",
];
const USUAL = 96;
const SOFT = 40;

/** What the computer keyboard plays to. */
interface KeyPlayer {
  noteOn(key: number, velocity: number): void;
  noteOff(key: number): void;
}

/** Plays notes from the computer keyboard, from a lowest key up; with Shift softly. A held letter sounds once. */
export class ComputerKeys {
  private readonly held = new Map<string, number>();

  constructor(
    private readonly player: KeyPlayer,
    private readonly lowest: () => number,
  ) {}

  /** Takes a pressed key; false when it isn't one that plays. */
  down(event: Pick<KeyboardEvent, "code" | "shiftKey" | "repeat">): boolean {
    const index = NOTES.indexOf(event.code);
    if (index < 0) return false;
    const key = this.lowest() + index;
    if (event.repeat || this.held.has(event.code) || key > 127) return true;
    this.held.set(event.code, key);
    this.player.noteOn(key, event.shiftKey ? SOFT : USUAL);
    return true;
  }

  up(event: Pick<KeyboardEvent, "code">): void {
    const key = this.held.get(event.code);
    if (key === undefined) return;
    this.held.delete(event.code);
    this.player.noteOff(key);
  }

  /** Lets everything go, as when the window loses the keyboard. */
  release(): void {
    for (const key of this.held.values()) this.player.noteOff(key);
    this.held.clear();
  }
}
