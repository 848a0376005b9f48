import { setFlagsFromString } from "node:v8";
import { runInNewContext } from "node:vm";
import { PHRASES, phraseEvents } from "../core/engine";
import { bench, RATE, sine } from "../core/engine/test-bench";
import { addRoute, newLoop } from "../core/instrument";
import { type Figure, round } from "./figure";

const SECONDS = 10;

/** A busy phrase of ten seconds: how much the JavaScript heap has grown after a collection, for each block. */
export function allocation(): Figure[] {
  setFlagsFromString("--expose-gc");
  const gc = runInNewContext("gc") as () => void;
  const b = bench([sine(RATE, 300, 0.1)], [{ root: 60, loop: newLoop({ start: 9000, end: 40000, fade: 4000 }) }], (i) =>
    addRoute({ id: "r", source: "lfos/lfo1", target: "layers/main/source/fine", amount: 20 }).apply(i),
  );
  const left = new Float32Array(128);
  const right = new Float32Array(128);
  const events = PHRASES.filter((p) => p.id !== "long").flatMap((p) => phraseEvents(p, 240));
  const blocks = Math.round((SECONDS * RATE) / 128);
  const round1 = (): void => {
    const from = b.engine.frame;
    for (const e of events) b.engine.midi(e.status, e.data1, e.data2, from + Math.round(e.seconds * RATE));
    for (let i = 0; i < blocks; i++) b.engine.render(left, right);
    b.engine.trace.drain();
  };
  for (let i = 0; i < 3; i++) round1();
  // What is kept is kept in every round; what compiling leaves behind is not.
  let kept = Number.POSITIVE_INFINITY;
  for (let i = 0; i < 5; i++) {
    gc();
    const held = process.memoryUsage().heapUsed;
    round1();
    gc();
    kept = Math.min(kept, Math.max(0, process.memoryUsage().heapUsed - held) / blocks);
  }
  gc();
  const from = b.engine.frame;
  for (const e of events) b.engine.midi(e.status, e.data1, e.data2, from + Math.round(e.seconds * RATE));
  const queued = process.memoryUsage().heapUsed;
  for (let i = 0; i < blocks; i++) b.engine.render(left, right);
  const rendered = process.memoryUsage().heapUsed;
  return [
    {
      name: "allocation, heap kept for each block of a busy phrase",
      value: round(kept, 2),
      unit: "bytes",
      hold: "≤ 1 byte",
      pass: kept <= 1,
    },
    {
      name: "allocation, heap handed out for each block before any collection",
      value: round((rendered - queued) / blocks, 1),
      unit: "bytes",
      hold: "report",
      pass: true,
    },
  ];
}
