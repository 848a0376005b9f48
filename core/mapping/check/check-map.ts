import type { SampleFacts } from "../../analysis";
import { type Cents, nameOfNote } from "../../audio";
import type { Group, Instrument, Layer, Sample, Zone } from "../../instrument";
import { formatNumber, plural } from "../../params";
import { keyAnswers, mappedKeys } from "../coverage";
import type { Finding } from "./finding";

/** A zone with what it stands in, and its sample. */
interface Placed {
  readonly zone: Zone;
  readonly sample: Sample;
  readonly layer: Layer;
  readonly group: Group;
}

/** From how much on something is doubted. */
const TUNING: Cents = 20;
const REPEAT_TUNING: Cents = 30;
const LEVEL = 6;
const REPEAT_LEVEL = 5;
const CLIPPED = -0.1;
const HEAD = 0.02;
const OFFSET = 0.01;
/** A pitch is believed from here on. */
const SURE = 0.6;
/** Findings of one kind that are told: with more something is wrong as a whole. */
const MOST = 500;

const keyText = (low: number, high: number): string =>
  low === high ? `${nameOfNote(low)} · ${low}` : `${nameOfNote(low)}–${nameOfNote(high)}`;

const medianOf = (values: readonly number[]): number => {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.floor((sorted.length - 1) / 2)] ?? 0;
};

/** How loud a zone is, and at which pitch it sounds on its root. */
const levelOf = ({ zone, sample }: Placed): number => sample.loudness + zone.gain;
const tuningOf = ({ zone, sample }: Placed): Cents | null =>
  sample.pitch === null || sample.confidence < SURE || zone.track < 0.5
    ? null
    : (sample.pitch - zone.root) * 100 + zone.tune;

const finding = (
  kind: Finding["kind"],
  placed: readonly Placed[],
  text: string,
  more: Partial<Finding> = {},
): Finding => {
  const zones = placed.map((p) => p.zone);
  const [first] = placed;
  return {
    kind,
    text,
    zones: zones.map((z) => z.id),
    group: first ? `${first.layer.id}/${first.group.id}` : null,
    keys: [Math.min(...zones.map((z) => z.keyLow)), Math.max(...zones.map((z) => z.keyHigh))],
    velocity: zones[0] ? Math.round((zones[0].velLow + zones[0].velHigh) / 2) : 100,
    repair: null,
    way: "",
    ...more,
  };
};

function placedOf(instrument: Instrument): Placed[] {
  const samples = new Map(instrument.samples.map((s) => [s.sha, s]));
  return instrument.layers.flatMap((layer) =>
    layer.groups.flatMap((group) =>
      group.zones.flatMap((zone) => {
        const sample = zone.sample === null ? undefined : samples.get(zone.sample);
        return sample ? [{ zone, sample, layer, group }] : [];
      }),
    ),
  );
}

/** Members by a key, in their order. */
function groupedBy<T>(all: readonly T[], keyOf: (member: T) => string): T[][] {
  const groups = new Map<string, T[]>();
  for (const member of all) {
    const key = keyOf(member);
    const group = groups.get(key);
    if (group) group.push(member);
    else groups.set(key, [member]);
  }
  return [...groups.values()];
}

/** Everything doubtful about how an instrument is mapped. `facts`: what was measured of the samples' audio, as far as it is known. */
export function checkMap(instrument: Instrument, facts: ReadonlyMap<string, SampleFacts> = new Map()): Finding[] {
  const placed = placedOf(instrument);
  return [
    ...silentKeys(instrument),
    ...together(placed),
    ...tunings(placed),
    ...levels(placed),
    ...strengths(placed),
    ...repeats(placed),
    ...loops(placed),
    ...samples(placed, facts),
    ...ends(placed),
    ...switches(instrument),
    ...never(placed),
  ];
}

/** Keys within what is mapped that sound nothing, and velocities at which a key that sounds otherwise doesn't. */
function silentKeys(instrument: Instrument): Finding[] {
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
  const way = "let the strength beside it reach over them";
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

/** Zones of one group that answer the same note without being repeats, microphones or fading into one another. */
function together(placed: readonly Placed[]): Finding[] {
  const found: Finding[] = [];
  for (const members of groupedBy(placed, (p) => `${p.layer.id}/${p.group.id}/${p.zone.repeat}/${p.zone.mic}`)) {
    const sorted = [...members].sort((a, b) => a.zone.keyLow - b.zone.keyLow || a.zone.velLow - b.zone.velLow);
    for (let i = 0; i < sorted.length && found.length < MOST; i++) {
      const a = sorted[i] as Placed;
      for (let k = i + 1; k < sorted.length && found.length < MOST; k++) {
        const b = sorted[k] as Placed;
        if (b.zone.keyLow > a.zone.keyHigh) break;
        if (b.zone.velLow > a.zone.velHigh || b.zone.velHigh < a.zone.velLow || fades(a.zone, b.zone)) continue;
        const low = b.zone.keyLow;
        const high = Math.min(a.zone.keyHigh, b.zone.keyHigh);
        found.push(
          finding("together", [b, a], `${a.sample.name} and ${b.sample.name} sound together on ${keyText(low, high)}`, {
            keys: [low, high],
            velocity: Math.max(a.zone.velLow, b.zone.velLow),
            repair: { kind: "renumber" },
            way: "make them repeats of one another",
          }),
        );
      }
    }
  }
  return found;
}

/** Whether two zones that lie over one another fade into one another there. */
const fades = (a: Zone, b: Zone): boolean =>
  (a.keyFadeHigh > 0 && b.keyFadeLow > 0) ||
  (b.keyFadeHigh > 0 && a.keyFadeLow > 0) ||
  (a.velFadeHigh > 0 && b.velFadeLow > 0) ||
  (b.velFadeHigh > 0 && a.velFadeLow > 0);

function tunings(placed: readonly Placed[]): Finding[] {
  return placed.flatMap((p) => {
    const cents = tuningOf(p);
    if (cents === null || Math.abs(cents) <= TUNING) return [];
    const pitch = p.sample.pitch ?? 0;
    // Within a quarter tone the root is right and only the tuning is off.
    const root = Math.abs((pitch - p.zone.root) * 100) <= 50 ? p.zone.root : Math.round(pitch);
    const tune = Math.round((root - pitch) * 1000) / 10;
    const sounds = `${nameOfNote(Math.round(pitch))} ${pitch >= Math.round(pitch) ? "+" : "−"}${Math.abs(Math.round((pitch - Math.round(pitch)) * 100))} ct`;
    const octaves = Math.abs(cents) > 600 ? ", or was measured whole octaves off" : "";
    return [
      finding(
        "tuning",
        [p],
        `${p.sample.name} sounds ${sounds}, its root is ${nameOfNote(p.zone.root)}: ${formatNumber("cents", cents)} off${octaves}`,
        {
          repair: root < 0 || root > 127 ? null : { kind: "tune", root, tune },
          way: root === p.zone.root ? "tune it" : `make ${nameOfNote(root)} its root`,
        },
      ),
    ];
  });
}

/** The mean level of what a note and a strength have: repeats and microphones of one place together. */
interface Cell {
  readonly members: readonly Placed[];
  readonly root: number;
  readonly level: number;
}

const cellsOf = (placed: readonly Placed[]): Cell[] =>
  groupedBy(placed, (p) => String(p.zone.root)).map((members) => ({
    members,
    root: members[0]?.zone.root ?? 0,
    level: members.reduce((sum, p) => sum + levelOf(p), 0) / members.length,
  }));

/** A note that is far louder or softer than what lies on both sides of it, at the same strength. */
function levels(placed: readonly Placed[]): Finding[] {
  const alike = groupedBy(
    placed,
    (p) => `${p.layer.id}/${p.group.id}/${p.zone.mic}/${p.zone.velLow}-${p.zone.velHigh}`,
  );
  return alike.flatMap((members) => {
    const cells = cellsOf(members).sort((a, b) => a.root - b.root);
    return cells.flatMap((cell, i) => {
      const beside = cells.slice(Math.max(0, i - 2), i + 3).filter((c) => c !== cell);
      if (beside.length < 2) return [];
      const usual = medianOf(beside.map((c) => c.level));
      const off = cell.level - usual;
      if (Math.abs(off) <= LEVEL || beside.some((c) => Math.sign(cell.level - c.level) !== Math.sign(off))) return [];
      const [first] = cell.members;
      return first
        ? [
            finding(
              "level",
              cell.members,
              `${nameOfNote(cell.root)} at velocity ${first.zone.velLow}–${first.zone.velHigh} is ${formatNumber("decibels", Math.abs(off))} ${off > 0 ? "louder" : "softer"} than the notes beside it`,
              {
                repair: { kind: "gain", by: -off },
                way: "bring it to their level",
              },
            ),
          ]
        : [];
    });
  });
}

/** A harder strength that isn't louder than the one below it. */
function strengths(placed: readonly Placed[]): Finding[] {
  return groupedBy(placed, (p) => `${p.layer.id}/${p.group.id}/${p.zone.mic}/${p.zone.root}`).flatMap((members) => {
    const layers = groupedBy(members, (p) => `${p.zone.velLow}-${p.zone.velHigh}`)
      .map((own) => ({ own, level: own.reduce((sum, p) => sum + levelOf(p), 0) / own.length }))
      .sort((a, b) => (a.own[0]?.zone.velLow ?? 0) - (b.own[0]?.zone.velLow ?? 0));
    return layers.slice(1).flatMap((layer, i) => {
      const below = layers[i];
      const [first] = layer.own;
      const [low] = below?.own ?? [];
      if (!below || !first || !low || layer.level > below.level - 0.5) return [];
      return [
        finding(
          "softer",
          [...layer.own, ...below.own],
          `${nameOfNote(first.zone.root)}: velocity ${first.zone.velLow}–${first.zone.velHigh} is ${formatNumber("decibels", below.level - layer.level)} softer than ${low.zone.velLow}–${low.zone.velHigh}`,
          {
            velocity: first.zone.velHigh,
            repair: { kind: "swap" },
            way: "change places",
          },
        ),
      ];
    });
  });
}

function repeats(placed: readonly Placed[]): Finding[] {
  const stacks = groupedBy(
    placed,
    ({ layer, group, zone }) =>
      `${layer.id}/${group.id}/${zone.mic}/${zone.keyLow}-${zone.keyHigh}/${zone.velLow}-${zone.velHigh}`,
  );
  return stacks.flatMap((stack) => {
    if (stack.length < 3) return [];
    const level = medianOf(stack.map(levelOf));
    const tunes = stack.flatMap((p) => tuningOf(p) ?? []);
    const tune = medianOf(tunes);
    return stack.flatMap((p) => {
      const found: Finding[] = [];
      const off = levelOf(p) - level;
      if (Math.abs(off) > REPEAT_LEVEL)
        found.push(
          finding(
            "repeat-level",
            [p],
            `${p.sample.name}, repeat ${p.zone.repeat} of ${nameOfNote(p.zone.root)}, is ${formatNumber("decibels", Math.abs(off))} ${off > 0 ? "louder" : "softer"} than its siblings`,
            {
              repair: { kind: "gain", by: -off },
              way: "bring it to their level",
            },
          ),
        );
      const cents = tuningOf(p);
      if (cents !== null && tunes.length > 2 && Math.abs(cents - tune) > REPEAT_TUNING)
        found.push(
          finding(
            "repeat-tuning",
            [p],
            `${p.sample.name}, repeat ${p.zone.repeat} of ${nameOfNote(p.zone.root)}, is tuned ${formatNumber("cents", cents - tune)} from its siblings`,
            {
              repair: { kind: "tune", root: p.zone.root, tune: Math.round((p.zone.tune - (cents - tune)) * 10) / 10 },
              way: "tune it as they are",
            },
          ),
        );
      return found;
    });
  });
}

function loops(placed: readonly Placed[]): Finding[] {
  return groupedBy(placed, (p) => `${p.layer.id}/${p.group.id}`).flatMap((members) => {
    const looped = members.filter((p) => p.zone.loop !== null).length;
    if (looped === 0 || looped < members.length / 2) return [];
    return members
      .filter((p) => p.zone.loop === null && !p.zone.oneShot)
      .map((p) =>
        finding("no-loop", [p], `${p.sample.name} has no loop; ${looped} of ${members.length} in its group have one`),
      );
  });
}

function samples(placed: readonly Placed[], facts: ReadonlyMap<string, SampleFacts>): Finding[] {
  return groupedBy(placed, (p) => p.sample.sha).flatMap((uses) => {
    const [p] = uses;
    if (!p) return [];
    const found: Finding[] = [];
    if (p.sample.peak >= CLIPPED)
      found.push(
        finding("clipped", uses, `${p.sample.name} reaches ${formatNumber("decibels", p.sample.peak)}: it may clip`),
      );
    const fact = facts.get(p.sample.sha);
    const begin = p.zone.start / p.sample.rate;
    if (fact && !p.zone.reverse && fact.head - begin > HEAD)
      found.push(
        finding(
          "silence-first",
          uses,
          `${p.sample.name} is silent for ${formatNumber("seconds", fact.head - begin)} before it sounds`,
          {
            // A little before the sound is left, so that its attack stays whole.
            repair: { kind: "start", by: Math.round((fact.head - begin - 0.002) * p.sample.rate) },
            way: "begin with the sound",
          },
        ),
      );
    if (fact && Math.abs(fact.offset) > OFFSET)
      found.push(
        finding("offset", uses, `${p.sample.name} lies ${Math.round(fact.offset * 1000) / 10} % off the middle line`),
      );
    return found;
  });
}

/** Sounds that end by themselves beside such as end with the key, on one key. */
function ends(placed: readonly Placed[]): Finding[] {
  return groupedBy(placed, (p) => `${p.layer.id}/${p.group.id}/${p.zone.keyLow}-${p.zone.keyHigh}`).flatMap(
    (members) => {
      const shots = members.filter((p) => p.zone.oneShot).length;
      if (shots === 0 || shots === members.length) return [];
      const oneShot = shots > members.length / 2;
      const odd = members.filter((p) => p.zone.oneShot !== oneShot);
      const [first] = members;
      return first
        ? [
            finding(
              "mixed-ends",
              odd,
              `${keyText(first.zone.keyLow, first.zone.keyHigh)}: ${plural(shots, "zone plays", "zones play")} on after the key is let go, ${members.length - shots} ${members.length - shots === 1 ? "doesn’t" : "don’t"}`,
              {
                repair: { kind: "one-shot", oneShot },
                way: oneShot ? "let all play on" : "let all end with the key",
              },
            ),
          ]
        : [];
    },
  );
}

/** Switch keys that sound a note as well. */
function switches(instrument: Instrument): Finding[] {
  const answers = keyAnswers(instrument);
  const free = answers.findIndex((a, key) => key >= 12 && a.kind === "silent");
  return instrument.layers.flatMap((layer) =>
    layer.groups.flatMap((group): Finding[] => {
      const { params } = group.settings;
      const key = Number(params.switchKey);
      if (params.switch === "none" || answers[key]?.kind === "silent") return [];
      return [
        {
          ...finding("switch-sounds", [], `${keyText(key, key)} switches ${group.name} and sounds a note itself`),
          group: `${layer.id}/${group.id}`,
          keys: [key, key],
          repair: free < 0 ? null : { kind: "switch-key", key: free },
          way: free < 0 ? "" : `switch by ${nameOfNote(free)}`,
        },
      ];
    }),
  );
}

/** Zones of groups that never sound, and such as lie behind no velocity. */
function never(placed: readonly Placed[]): Finding[] {
  return groupedBy(placed, (p) => `${p.layer.id}/${p.group.id}`).flatMap((members) => {
    const [first] = members;
    if (!first || Number(first.group.settings.params.chance) > 0) return [];
    return [
      finding(
        "never",
        members,
        `${first.group.name}: its chance is 0 %, so ${plural(members.length, "zone never sounds", "zones never sound")}`,
      ),
    ];
  });
}
