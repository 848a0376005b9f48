import type { Instrument } from "../../instrument";
import { keyAnswers, mappedKeys } from "../coverage";
import type { Finding } from "./finding";
import { finding, groupedBy, keyText, type Placed, placedOf } from "./placed";

/** Keys within what is mapped that sound nothing, and velocities at which a key that sounds otherwise doesn't: of all that sounds, and of each layer, which others may hide. */
export function silentKeys(instrument: Instrument): Finding[] {
  const whole = silentIn(instrument);
  if (instrument.layers.length < 2) return whole;
  const told = new Set(whole.map(placeOf));
  const hidden = instrument.layers.flatMap((layer) =>
    silentIn({ ...instrument, layers: [layer] })
      .filter((f) => !told.has(placeOf(f)))
      .map((f) => ({ ...f, text: `${layer.name}: ${f.text}` })),
  );
  return [...whole, ...hidden];
}

const placeOf = ({ kind, keys, velocity }: Finding): string => `${kind} ${keys.join("–")} ${velocity}`;

function silentIn(instrument: Instrument): Finding[] {
  const mapped = mappedKeys(instrument);
  if (!mapped) return [];
  const answers = keyAnswers(instrument);
  const zones = placedOf(instrument);
  const found: Finding[] = [];
  for (let key = mapped.low; key <= mapped.high; key++) {
    if (answers[key]?.kind !== "silent") continue;
    let last = key;
    while (last < mapped.high && answers[last + 1]?.kind === "silent") last++;
    const below = zones.filter((p) => p.zone.keyHigh === key - 1);
    found.push(
      finding(
        "silent",
        below,
        `${keyText(key, last)}: ${last === key ? "no zone answers this key" : "no zone answers these keys"}`,
        {
          keys: [key, last],
          velocity: 100,
          repair: below.length > 0 ? { kind: "reach", keyLow: -1, keyHigh: last } : null,
          way: below.length > 0 ? "let the zones below reach over them" : "",
        },
      ),
    );
    key = last;
  }
  const gaps = groupedBy(
    answers.flatMap((answer, key) => (answer.kind === "some" ? [{ key, gaps: answer.gaps }] : [])),
    (a) => a.gaps.map((g) => g.join("-")).join(","),
  );
  for (const alike of gaps)
    for (const [first, last] of runsOf(alike.map((a) => a.key))) {
      const [from, to] = alike[0]?.gaps[0] ?? [1, 127];
      const [mend, repair, way] = reachInto(zones, { low: first, high: last, from, to });
      const at = alike[0]?.gaps.map((g) => g.join("–")).join(", ");
      found.push(
        finding("velocity-gap", mend, `${keyText(first, last)}: nothing sounds at velocities ${at}`, {
          keys: [first, last],
          velocity: from,
          repair,
          way,
        }),
      );
    }
  return found;
}

interface Hole {
  readonly low: number;
  readonly high: number;
  readonly from: number;
  readonly to: number;
}

/** Which zones can reach into a hole without lying over others: those beside it with its velocities, else those of the strength below or above that have just its keys. */
function reachInto(
  all: readonly Placed[],
  { low, high, from, to }: Hole,
): [readonly Placed[], Finding["repair"], string] {
  const across = all.filter((p) => p.zone.velLow <= from && p.zone.velHigh >= to);
  const left = across.filter((p) => p.zone.keyHigh === low - 1);
  if (left.length > 0)
    return [left, { kind: "reach", keyLow: -1, keyHigh: high }, "let the zones below reach over them"];
  const right = across.filter((p) => p.zone.keyLow === high + 1);
  if (right.length > 0)
    return [right, { kind: "reach", keyLow: low, keyHigh: -1 }, "let the zones above reach over them"];
  const within = all.filter((p) => p.zone.keyLow >= low && p.zone.keyHigh <= high);
  const softer = within.filter((p) => p.zone.velHigh === from - 1);
  const way = "let the velocity layer beside it reach over them";
  if (softer.length > 0) return [softer, { kind: "velocities", velLow: -1, velHigh: to }, way];
  const harder = within.filter((p) => p.zone.velLow === to + 1);
  if (harder.length > 0) return [harder, { kind: "velocities", velLow: from, velHigh: -1 }, way];
  return [[], null, ""];
}

/** Runs of whole numbers that follow one another, each as its first and last. */
function runsOf(numbers: readonly number[]): [number, number][] {
  const runs: [number, number][] = [];
  for (const n of numbers) {
    const last = runs.at(-1);
    if (last && last[1] === n - 1) last[1] = n;
    else runs.push([n, n]);
  }
  return runs;
}
