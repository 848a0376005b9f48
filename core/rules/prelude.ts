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
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  Math.random = next;
  globalThis.random = (low = 0, high = 1) => low + (high - low) * next();
  const number = (what, value) => {
    if (typeof value !== "number" || !Number.isFinite(value)) throw new TypeError(what + " must be a number, not " + String(value));
    return value;
  };
  const send = (note) => {
    const at = 4 + 4 * box[0];
    const values = [number("key", note.key), number("velocity", note.velocity), number("delay", note.delay ?? 0), number("length", note.length ?? 0)];
    if (box[0] >= most) throw new RangeError("one note can't become more than " + most);
    box.set(values, at);
    box[0]++;
  };
  globalThis.play = (note) => send({ velocity: 80, ...note });
  globalThis.__start = () => {
    box[0] = 0;
    const note = { key: box[1], velocity: box[2], time: box[3], delay: 0, length: 0 };
    if (typeof start !== "function") return send(note);
    if (start(note) !== false) send(note);
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
