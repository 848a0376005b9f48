import { type Bench, bench, peak, RATE, sine } from "../core/engine/test-bench";
import {
  addUnit,
  type Edit,
  type Instrument,
  moveUnit,
  newUnit,
  removeUnit,
  setParam,
  type UnitList,
  unitsOf,
} from "../core/instrument";
import { kindsAt, type UnitKind } from "../core/units";
import { stepOf } from "./edit";
import { type Figure, round } from "./figure";

const TONE = sine(4 * RATE, 233, 0.2);
/** Frames before each edit: at no zero crossing of the tone, and in the middle of a block and a control step. */
const BEFORE = 4855;
const LISTS = [
  ["stage", "layers/main/stages"],
  ["insert", "layers/main/inserts"],
  ["main", "effects"],
] as const;

const held = (i: Instrument): Bench => {
  const b = bench([TONE], [{ root: 60 }], () => i);
  b.engine.midi(0x90, 60, 100);
  return b;
};

/** The step beyond what both sounds do by themselves, against the louder of them, in decibels. */
function stepOfEdit(from: Instrument, to: Instrument): number {
  const b = held(from);
  b.play(BEFORE);
  const before = b.play(4800).left;
  b.change(to);
  const during = b.play(960).left;
  b.play(9600);
  const after = b.play(4800).left;
  // From one sound to the other in 3 ms: at its corners a straight line turns by so much.
  const ramp = (peak(before) + peak(after)) / (0.003 * RATE) / 2;
  const beyond = stepOf(during) - Math.max(stepOf(before), stepOf(after)) - ramp;
  return 20 * Math.log10(Math.max(1e-9, beyond) / Math.max(peak(before), peak(after), 1e-3));
}

/** The last two units of a row in the other order. */
function swapped(from: Instrument, list: string): Instrument {
  const order = (i: Instrument): string[] => (unitsOf(i, list as UnitList) ?? []).map((u) => u.id);
  const to = moveUnit(list as UnitList, "u", order(from).length - 1).apply(from);
  if (order(to).join() === order(from).join()) throw new Error(`nothing was moved in ${list}: ${order(from).join()}`);
  return to;
}

/** Every unit of every place put in, switched off, moved and taken out under a held note: the largest step. */
export function swap(): Figure[] {
  return LISTS.map(([place, list]): Figure => {
    let worst = Number.NEGATIVE_INFINITY;
    let what = "";
    const look = (name: string, from: Instrument, to: Instrument): void => {
      const step = stepOfEdit(from, to);
      if (step <= worst) return;
      worst = step;
      what = name;
    };
    for (const kind of kindsAt(place)) {
      const done = (i: Instrument, edit: Edit): Instrument => edit.apply(i);
      const plain = bench([TONE], [{ root: 60 }], (i) => setParam(i, "play/level", -12).apply(i)).instrument;
      const inside = done(plain, addUnit(list as UnitList, newUnit(kind as UnitKind, "u")));
      const other = done(inside, addUnit(list as UnitList, newUnit(place === "stage" ? "shaper" : "stereo", "v")));
      look(`${kind} put in`, plain, inside);
      look(`${kind} switched off`, inside, setParam(inside, `${list}/u/on`, 0).apply(inside));
      look(`${kind} moved`, other, swapped(other, list));
      const behind = swapped(other, list);
      look(`what stands before ${kind} moved behind it`, behind, other);
      look(`what stands before ${kind} taken out`, behind, done(behind, removeUnit(list as UnitList, "v")));
      look(`${kind} taken out`, inside, done(inside, removeUnit(list as UnitList, "u")));
    }
    return {
      name: `units put in, switched, moved and taken out under a held note: ${place}`,
      value: round(worst),
      unit: "dB",
      against: what,
      hold: "no step above −70 dB beyond the ramp's",
      pass: worst <= -70,
    };
  });
}
