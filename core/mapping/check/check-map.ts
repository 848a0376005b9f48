import type { SampleFacts } from "../../analysis";
import { nameOfNote } from "../../audio";
import type { Instrument, Zone } from "../../instrument";
import { formatNumber, plural } from "../../params";
import { keyAnswers } from "../coverage";
import type { Finding } from "./finding";
import { silentKeys } from "./holes";
import { levels, repeats, strengths, tunings } from "./measured";
import { finding, groupedBy, keyText, type Placed, placedOf } from "./placed";

/** From how much on something is doubted: a peak in dBFS, seconds of silence, a share of full scale. */
const CLIPPED = -0.1;
const HEAD = 0.02;
const OFFSET = 0.01;
/** Findings of one kind that are told: with more something is wrong as a whole. */
const MOST = 500;

/**
 * Everything doubtful about how an instrument is mapped. `facts`: what was measured of the samples' audio, as far as it is known; `missing`: samples whose
 * audio isn't there, by content, of which nothing else is said.
 */
export function checkMap(
  instrument: Instrument,
  facts: ReadonlyMap<string, SampleFacts> = new Map(),
  missing: ReadonlySet<string> = new Set(),
): Finding[] {
  const all = placedOf(instrument);
  const placed = missing.size > 0 ? all.filter((p) => !missing.has(p.sample.sha)) : all;
  return [
    ...gone(all.filter((p) => missing.has(p.sample.sha))),
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

/** Samples that aren't there, each with all its zones. */
const gone = (placed: readonly Placed[]): Finding[] =>
  groupedBy(placed, (p) => p.sample.sha)
    .slice(0, MOST)
    .map((zones) =>
      finding(
        "missing",
        zones,
        `${zones[0]?.sample.name} isn't in this browser: ${plural(zones.length, "zone stays", "zones stay")} silent; the pool finds it again`,
      ),
    );

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
              `${keyText(first.zone.keyLow, first.zone.keyHigh)}: ${plural(shots, "zone plays", "zones play")} on after the key is released, ${members.length - shots} ${members.length - shots === 1 ? "doesn’t" : "don’t"}`,
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
      if (params.keyswitch === "none" || answers[key]?.kind === "silent") return [];
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
    if (!first || Number(first.group.settings.params.probability) > 0) return [];
    return [
      finding(
        "never",
        members,
        `${first.group.name}: its chance is 0 %, so ${plural(members.length, "zone never sounds", "zones never sound")}`,
      ),
    ];
  });
}
