import { newZone, type Sample, tuneOf, type Zone } from "../instrument";
import { looksLikeKit } from "./kit";
import { placeKit } from "./place-kit";
import {
  loopsOf,
  type PlacedGroup,
  type Placement,
  type PlaceSound,
  pitchOf,
  releaseOf,
  sortAll,
  velocitiesOf,
} from "./place-parts";
import type { Weighed } from "./reading";
import { type KeyRange, type SpreadOptions, spreadRoots } from "./spread";

/** What a sample says by itself: its pitch, and what was said of it when it was cut. */
const bySound = (sample: Sample): PlaceSound => ({
  sample,
  says: {
    ...{ note: null, velocities: null, microphone: null, trigger: null, group: null, doubt: "" },
    strength: sample.strength,
    repeat: sample.repeat,
  },
});

/**
 * Places samples on the keys by what was measured: by pitch, level and order; each zone is tuned so that it sounds at
 * equal temperament. A kit's sounds get a key each from C2 up, as do all where no sample has a pitch. `idOf` gives each zone its id.
 */
export const placeSamples = (
  samples: readonly Sample[],
  spread: SpreadOptions,
  idOf: (index: number) => string,
): Placement => placeSounds(samples.map(bySound), { ...spread, kit: isKit(samples) }, idOf);

/** Whether samples are likelier a kit than notes, as far as names tell them apart and sounds have a pitch. */
const isKit = (samples: readonly Sample[]): boolean =>
  looksLikeKit(
    samples.map(({ file, name }) => ({ path: file?.path ?? name, microphone: null, trigger: null })),
    { manner: null, agreement: null, pitches: samples.map(pitchOf) },
  );

/**
 * Places samples by what the evidence says of each; what is silent about it is taken from the sound. `layers`: how many velocity layers a note has whose
 * strengths nobody tells; `kit`: each sound gets a key of its own, whatever its pitch.
 */
export function placeSounds(
  sounds: readonly PlaceSound[],
  spread: SpreadOptions & { readonly layers?: number; readonly kit?: boolean },
  idOf: (index: number) => string,
): Placement {
  const noteOf = ({ says, sample }: PlaceSound): number | null => says.note ?? pitchOf(sample);
  if (spread.kit || sounds.every((s) => noteOf(s) === null)) return placeKit(sounds, spread.layers ?? null, idOf);
  const leftOut: { sample: Sample; reason: string }[] = sounds
    .filter((s) => noteOf(s) === null)
    .map(({ sample }) => ({ sample, reason: "no clear pitch" }));
  const doubts: { sample: Sample; zone: string; doubt: string }[] = [];
  const roots = new Set<number>();
  let layered = false;
  let detune = 0;
  let count = 0;
  const groups = groupsOf(sounds).map(({ name, trigger, members }): PlacedGroup => {
    const sorting = sortAll(members, spread.layers ?? null);
    const ranges = spreadRoots([...sorting.layersOf.keys()], spread);
    detune ||= sorting.detune;
    const zones = sorting.sorted.flatMap((place): Zone[] => {
      const sound = members[Number(place.id)] as PlaceSound;
      const { sample, says } = sound;
      const range = ranges.get(place.note);
      if (!range) {
        leftOut.push({ sample, reason: "its note lies outside the limits" });
        return [];
      }
      const layers = sorting.layersOf.get(place.note) ?? 1;
      if (layers > 1) layered = true;
      roots.add(place.note);
      const zone = newZone({
        id: idOf(count++),
        sample: sample.sha,
        end: sample.frames,
        // What a file names itself is believed, if its root lies in it.
        ...keysOf(says.keys, place.note, range),
        root: place.note,
        tune: tuneOf(place.note, pitchOf(sample)),
        ...velocitiesOf(place, members, sorting.sorted, sorting.bounds.get(layers) ?? [127]),
        repeat: place.repeat,
        mic: says.microphone,
        ...loopsOf(sample),
      });
      if (says.doubt !== "") doubts.push({ sample, zone: zone.id, doubt: says.doubt });
      return [zone];
    });
    return { name, trigger, zones };
  });
  const microphones = [...new Set(sounds.flatMap((s) => s.says.microphone ?? []))];
  const zones = groups.flatMap((g) => g.zones);
  const release = releaseOf(sounds, zones);
  return { groups, zones, microphones, leftOut, doubts, roots: roots.size, layered, detune, release, kit: false };
}

function keysOf(said: Weighed["keys"] | undefined, note: number, range: KeyRange): Pick<Zone, "keyLow" | "keyHigh"> {
  const { low, high } = said && said.low <= note && said.high >= note ? said : range;
  return { keyLow: low, keyHigh: high };
}

interface Members {
  readonly name: string;
  readonly trigger: "noteOn" | "noteOff";
  readonly members: readonly PlaceSound[];
}

/** Sounds by what they are, those that keys press first. */
function groupsOf(sounds: readonly PlaceSound[]): Members[] {
  const groups = new Map<string, { name: string; trigger: "noteOn" | "noteOff"; members: PlaceSound[] }>();
  for (const sound of sounds) {
    const name = sound.says.group ?? "";
    const trigger = sound.says.trigger ?? "noteOn";
    const key = `${trigger} ${name}`;
    const group = groups.get(key) ?? { name, trigger, members: [] };
    group.members.push(sound);
    groups.set(key, group);
  }
  return [...groups.values()].sort((a, b) => Number(a.trigger === "noteOff") - Number(b.trigger === "noteOff"));
}
