import { type Cents, type Decibels, nameOfNote } from "../../audio";
import { formatNumber } from "../../params";
import type { Finding } from "./finding";
import { finding, groupedBy, levelOf, medianOf, type Placed, tuningOf } from "./placed";

/** From how much on something is doubted. */
const TUNING: Cents = 20;
const REPEAT_TUNING: Cents = 30;
const LEVEL: Decibels = 6;
const REPEAT_LEVEL: Decibels = 5;

/** Roots that are off the pitch which was measured. */
export function tunings(placed: readonly Placed[]): Finding[] {
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
export function levels(placed: readonly Placed[]): Finding[] {
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
export function strengths(placed: readonly Placed[]): Finding[] {
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

/** Repeats that are louder, softer or tuned otherwise than their siblings. */
export function repeats(placed: readonly Placed[]): Finding[] {
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
