import {
  addGroup,
  addLayer,
  changeZones,
  type Edit,
  type Instrument,
  newGroup,
  newLayer,
  newZone,
  placeZones,
  type Sample,
  together,
  type Zone,
} from "../instrument";
import { plural } from "../params";
import { type KeyStep, keysFrom } from "./lay-out";
import { addMicrophones } from "./placement-edit";
import { applyReading, evidenceOf, readNames } from "./reading";

/** How dropped samples are laid out. */
export interface Laying {
  /** The key on which they were dropped; the others go up from there. */
  readonly key: number;
  readonly step: KeyStep;
  /** Whether each also covers the keys up to the next one. */
  readonly cover: boolean;
  /** Whether each folder begins at that key anew, in a group or a layer of its own. */
  readonly folders: "together" | "groups" | "layers";
  /** Beside what is there; as further repeats of the zones on which they were dropped; or in place of their samples. */
  readonly onto: "keys" | "repeats" | "instead";
}

/** What laying samples out comes to. */
export interface Laid {
  readonly edit: Edit;
  /** The zones that play them. */
  readonly zones: ReadonlySet<string>;
  /** Samples for which no key or zone was left. */
  readonly left: number;
}

/** A sample with the folder that it came from, its microphone if its name tells one, and what its name is beside that. */
interface Dropped {
  readonly sample: Sample;
  readonly folder: string;
  readonly mic: string | null;
  readonly rest: string;
}

/** The last folder of a path; empty where there is none. */
export const folderOf = ({ file }: Sample): string => file?.path.split("/").at(-2) ?? "";

/** Which microphone each name tells of, where a set has several. */
function withMicrophones(samples: readonly Sample[]): Dropped[] {
  const sounds = samples.map(evidenceOf);
  const reading = readNames(sounds).find((r) => r.columns.microphone);
  const applied = reading ? applyReading(reading, sounds) : null;
  const several = new Set(applied?.names.map((n) => n.microphone)).size > 1;
  return samples.map((sample, i) => {
    const path = sounds[i]?.path ?? "";
    const mic = (several && applied?.names[i]?.microphone) || null;
    const piece = mic ? applied?.pieces[i]?.find((p) => p.role === "microphone") : undefined;
    const rest = piece ? path.slice(0, piece.start) + path.slice(piece.end) : path;
    return { sample, folder: folderOf(sample), mic, rest };
  });
}

/** Parts a list by what its members have in common, in the order in which that comes. */
function partBy<T>(list: readonly T[], of: (member: T) => string): Map<string, T[]> {
  const parts = new Map<string, T[]>();
  for (const member of list) {
    const name = of(member);
    const part = parts.get(name);
    if (part) part.push(member);
    else parts.set(name, [member]);
  }
  return parts;
}

/** Zones for samples, a key each; those of one stroke by several microphones share theirs. What is left over gets none. */
function onKeys(dropped: readonly Dropped[], { key, step, cover }: Laying, idOf: () => string): Zone[] {
  const strokes = [...partBy(dropped, (d) => d.rest).values()];
  const keys = keysFrom(key, step, strokes.length + 1);
  return strokes.flatMap((stroke, i) => {
    const root = keys[i];
    if (root === undefined) return [];
    const width = typeof step === "number" ? step : 1;
    const keyHigh = cover ? Math.min(127, (keys[i + 1] ?? root + width) - 1) : root;
    return stroke.map(({ sample, mic }) =>
      newZone({ id: idOf(), sample: sample.sha, end: sample.frames, keyLow: root, keyHigh, root, mic }),
    );
  });
}

/** What a folder's group or layer is called. */
const nameOfFolder = (folder: string): string => folder.slice(0, 60) || "Dropped";

/** Further repeats of some zones: the first zone's ranges, each sample whole. */
function asRepeats(samples: readonly Sample[], target: readonly Zone[], idOf: () => string): Zone[] {
  const [like] = target;
  if (!like) return [];
  const last = target.reduce((most, z) => Math.max(most, z.repeat), 0);
  return samples.map((sample, i) => ({
    ...like,
    ...{
      id: idOf(),
      sample: sample.sha,
      start: 0,
      end: sample.frames,
      loop: null,
      releaseLoop: null,
      variants: [],
      kept: "",
    },
    repeat: last + 1 + i,
  }));
}

/**
 * Lays dropped samples out as one edit, which begins anew each time it is made with another `laying` in one gesture. `target`: the zones on which they were
 * dropped, by which repeats and replacements go; `idOf` gives zones, groups and layers their ids.
 */
export function layEdit(
  instrument: Instrument,
  samples: readonly Sample[],
  laying: Laying,
  target: readonly Zone[],
  idOf: () => string,
): Laid | null {
  const [layer] = instrument.layers;
  const [group] = layer?.groups ?? [];
  if (!layer || !group || samples.length === 0) return null;
  const done = (edits: readonly Edit[], zones: readonly string[], left: number): Laid => ({
    edit: { ...together(`Lay ${plural(samples.length, "sample")}`, edits), merge: "lay", anew: true },
    zones: new Set(zones),
    left,
  });
  if (laying.onto === "instead") {
    const pairs = new Map(target.flatMap((z, i) => (samples[i] ? [[z.id, samples[i]] as const] : [])));
    const change = (zone: Zone): Zone => {
      const sample = pairs.get(zone.id);
      return sample
        ? { ...zone, sample: sample.sha, start: 0, end: sample.frames, loop: null, releaseLoop: null, variants: [] }
        : zone;
    };
    const ids = [...pairs.keys()];
    return done([changeZones(new Set(ids), "Replace sample", change)], ids, samples.length - ids.length);
  }
  if (laying.onto === "repeats") {
    const zones = asRepeats(samples, target, idOf);
    const home = instrument.layers
      .flatMap((l) => l.groups.map((g) => ({ layer: l.id, group: g })))
      .find(({ group: g }) => g.zones.some((z) => z.id === target[0]?.id));
    return home
      ? done(
          [placeZones(home.layer, home.group.id, zones, false)],
          zones.map((z) => z.id),
          samples.length - zones.length,
        )
      : null;
  }
  const dropped = withMicrophones(samples);
  const edits: Edit[] = addMicrophones(
    instrument,
    dropped.flatMap((d) => d.mic ?? []),
  );
  const zones: Zone[] = [];
  for (const [folder, members] of partBy(dropped, (d) => (laying.folders === "together" ? "" : d.folder))) {
    const own = onKeys(members, laying, idOf);
    zones.push(...own);
    if (laying.folders === "together") edits.push(placeZones(layer.id, group.id, own, false));
    else if (laying.folders === "groups")
      edits.push(addGroup(layer.id, { ...newGroup(idOf(), nameOfFolder(folder)), zones: own }));
    else {
      const made = newLayer(idOf(), nameOfFolder(folder));
      edits.push(addLayer({ ...made, groups: made.groups.map((g) => ({ ...g, zones: own })) }));
    }
  }
  return done(
    edits,
    zones.map((z) => z.id),
    samples.length - zones.length,
  );
}
