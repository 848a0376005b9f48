import { nameOfNote } from "../../core/audio";
import { routeProblem } from "../../core/engine";
import { isControl } from "../../core/face";
import {
  bindsOf,
  byIdentity,
  type Instrument,
  listNotes,
  listSampled,
  listZones,
  newInstrument,
  settingOf,
  type Unit,
  type Zone,
} from "../../core/instrument";
import { grouped, plural } from "../../core/params";

/** How far a station is: empty, begun, done. */
export type Progress = "empty" | "half" | "full";

interface StationInfo {
  readonly id: string;
  readonly path: string;
  readonly label: string;
  readonly question: string;
  /** What the station holds or doubts, in a few words. */
  readonly state: (instrument: Instrument) => { readonly text: string; readonly progress: Progress };
}

const USUAL = newInstrument("usual", "");

/** Lowest and highest key of zones, and how many have loops; computed once for each list of them. */
const factsOf = byIdentity((zones: readonly Zone[]) => {
  let [low, high, loops] = [128, -1, 0];
  for (let i = 0; i < zones.length; i++) {
    const zone = zones[i] as Zone;
    if (zone.keyLow < low) low = zone.keyLow;
    if (zone.keyHigh > high) high = zone.keyHigh;
    if (zone.loop) loops++;
  }
  return { low, high, loops };
});

/** Whether any unit that makes the tone has been set otherwise than it begins, added or removed. */
function isShaped({ layers, effects }: Instrument): boolean {
  const plain = USUAL.layers[0];
  const same = (a: Unit, b: Unit | undefined) =>
    b !== undefined && a.kind === b.kind && Object.entries(a.params).every(([id, value]) => settingOf(b, id) === value);
  const units = (list: readonly Unit[], others: readonly Unit[]) =>
    list.length === others.length && list.every((u, i) => same(u, others[i]));
  return (
    !units(effects, USUAL.effects) ||
    layers.some((l) => !plain || !units([l.source, ...l.stages, l.amp], [plain.source, ...plain.stages, plain.amp]))
  );
}

/** The nine stations in the order of the work; the rail is made of this. */
export const STATIONS: readonly StationInfo[] = [
  {
    id: "take",
    path: "/take",
    label: "Take",
    question: "Is everything recorded that the instrument needs?",
    // Done is what somebody has said to be wanted, or what has become keys that sound.
    state: (instrument) => {
      const { takes, shots } = instrument;
      const open = shots.filter((s) => s.state === "open").length;
      if (shots.length > 0)
        return {
          text: open > 0 ? `${open} to record` : plural(takes.length, "take"),
          progress: open > 0 ? "half" : "full",
        };
      const mapped = listZones(instrument).length > 0;
      if (takes.length === 0) return { text: mapped ? "none needed" : "empty", progress: mapped ? "full" : "empty" };
      return { text: plural(takes.length, "take"), progress: mapped ? "full" : "half" };
    },
  },
  {
    id: "cut",
    path: "/cut",
    label: "Cut",
    question: "Where does each sound begin and end, and which note is it?",
    state: (instrument) => {
      const { takes } = instrument;
      const samples = listNotes(instrument);
      const slices = takes.reduce((n, t) => n + t.slices.filter((s) => s.keep).length, 0);
      if (samples.length > 0) return { text: plural(samples.length, "sample"), progress: "full" };
      return { text: slices > 0 ? plural(slices, "slice") : "not yet", progress: slices > 0 ? "half" : "empty" };
    },
  },
  {
    id: "map",
    path: "/map",
    label: "Map",
    question: "Which sample answers which key, at which velocity?",
    state: (instrument) => {
      const zones = listZones(instrument);
      if (zones.length === 0) return { text: "empty", progress: "empty" };
      const { low, high } = factsOf(zones);
      return { text: `${grouped(zones.length)} · ${nameOfNote(low)}–${nameOfNote(high)}`, progress: "full" };
    },
  },
  {
    id: "loop",
    path: "/loop",
    label: "Loop",
    question: "How does a finite sample sound without end?",
    state: (instrument) => {
      const zones = listSampled(instrument);
      const { loops } = factsOf(zones);
      return {
        text: `${grouped(loops)} of ${grouped(zones.length)}`,
        progress: loops === 0 ? "empty" : loops < zones.length ? "half" : "full",
      };
    },
  },
  {
    id: "sound",
    path: "/sound",
    label: "Sound",
    question: "What makes the tone?",
    // Done is what is no longer as a new layer has it.
    state: (instrument) => {
      const { layers } = instrument;
      const text = plural(layers.length, "layer");
      if (listZones(instrument).length === 0) return { text, progress: "empty" };
      return { text, progress: isShaped(instrument) ? "full" : "half" };
    },
  },
  {
    id: "motion",
    path: "/motion",
    label: "Motion",
    question: "What changes while it is played?",
    state: (instrument) => {
      const { routes } = instrument;
      const idle = routes.filter((r) => routeProblem(instrument, r) !== null).length;
      const text =
        routes.length === 0
          ? "no routes"
          : idle > 0
            ? `${routes.length} · ${idle} idle`
            : plural(routes.length, "route");
      return { text, progress: routes.length === 0 ? "empty" : idle > 0 ? "half" : "full" };
    },
  },
  {
    id: "face",
    path: "/face",
    label: "Face",
    question: "What does the player of it see and touch?",
    state: ({ face }) => {
      const loose = face.items.filter((i) => isControl(i.kind) && bindsOf(i).length === 0).length;
      if (face.items.length === 0) return { text: "empty", progress: "empty" };
      return loose > 0
        ? { text: `${loose} unbound`, progress: "half" }
        : { text: plural(face.items.length, "item"), progress: "full" };
    },
  },
  {
    id: "rules",
    path: "/rules",
    label: "Rules",
    question: "What should happen that no knob can say?",
    state: ({ rules }) => ({
      text: rules.on ? "on" : "off",
      progress: rules.on ? "full" : rules.script.trim() ? "half" : "empty",
    }),
  },
  {
    id: "ship",
    path: "/ship",
    label: "Ship",
    question: "Does it work elsewhere, and does it say what it is?",
    state: (instrument) => {
      const ready = listZones(instrument).length > 0;
      const named = instrument.about.maker !== "" && instrument.about.name !== "New instrument";
      return {
        text: !ready ? "not yet" : named ? "ready" : "unnamed",
        progress: !ready ? "empty" : named ? "full" : "half",
      };
    },
  },
];
