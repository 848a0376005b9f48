/**
 * What a script finds in its world: `random(low, high)`, `play({ key, velocity, delay, length })`, and nothing of the page,
 * the network or the clock. It defines `start(note)` and, if it likes, `end(note)`.
 */
export const PRELUDE = `
"use strict";
(() => {
  // What goes in and out stands in memory that the host sees: how many notes there are, key, velocity and time, and from 4 on the notes.
  const box = new Float64Array(globalThis.__box);
  const most = (box.length - 4) / 4;
  let state = globalThis.__seed >>> 0;
  delete globalThis.__box;
  delete globalThis.__seed;
  // Whatever a script makes of the built-ins later, these are the ones that were there.
  const { imul } = Math;
  const { isFinite } = Number;
  const text = String;
  const Wrong = TypeError;
  const Beyond = RangeError;
  const MOST = { delay: 60, length: 3600 };
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = imul(state ^ (state >>> 15), 1 | state);
    t = (t + imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  Math.random = next;
  globalThis.random = (low = 0, high = 1) => low + (high - low) * next();
  const number = (what, value) => {
    if (typeof value !== "number" || !isFinite(value)) throw new Wrong(what + " must be a number, not " + text(value));
    if (value > MOST[what]) throw new Beyond(what + " is at most " + MOST[what] + " seconds, not " + text(value));
    return value;
  };
  const send = (key, velocity, delay, length) => {
    const at = 4 + 4 * box[0];
    if (box[0] >= most) throw new Beyond("one note can't become more than " + most);
    box[at] = number("key", key);
    box[at + 1] = number("velocity", velocity);
    box[at + 2] = number("delay", delay);
    box[at + 3] = number("length", length);
    box[0]++;
  };
  // A note as a handler gets it: a value that can't be is told where it is set.
  class Note {
    #key;
    #velocity;
    #delay = 0;
    #length = 0;
    constructor(key, velocity, time) {
      this.#key = key;
      this.#velocity = velocity;
      this.time = time;
    }
    get key() { return this.#key; }
    set key(value) { this.#key = number("key", value); }
    get velocity() { return this.#velocity; }
    set velocity(value) { this.#velocity = number("velocity", value); }
    get delay() { return this.#delay; }
    set delay(value) { this.#delay = number("delay", value); }
    get length() { return this.#length; }
    set length(value) { this.#length = number("length", value); }
    static send(note) { send(note.#key, note.#velocity, note.#delay, note.#length); }
  }
  const sendNote = Note.send;
  delete Note.send;
  globalThis.play = ({ key, velocity = 80, delay = 0, length = 0 }) => send(key, velocity, delay, length);
  globalThis.__start = () => {
    box[0] = 0;
    const note = new Note(box[1], box[2], box[3]);
    if (typeof start !== "function" || start(note) !== false) sendNote(note);
  };
  globalThis.__end = () => {
    box[0] = 0;
    if (typeof end === "function") end({ key: box[1], time: box[3] });
  };
})();
`;

/** The ready example: repeated notes differ a little. */
export const EXAMPLE_SCRIPT = `// Called for every key that goes down, before a sample is chosen.
// Change key, velocity (1 to 127), delay or length (seconds); return false to drop the note.
let last = 0;

function start(note) {
  // Nobody strikes twice alike: a little softer or harder, a few milliseconds late.
  note.velocity += random(-7, 7);
  note.delay = random(0, 0.008);
  // A quick repeat of the same key comes out a touch softer.
  if (note.key === last) note.velocity -= 4;
  last = note.key;
}
`;
