import {
  addSamples,
  changeZones,
  listNotes,
  listZones,
  placeZones,
  removeZones,
  together,
  type Zone,
} from "../../../core/instrument";
import { mappedKeys } from "../../../core/mapping";
import { plural } from "../../../core/params";
import { copied, copy } from "../../state/clipboard";
import type { Command } from "../../state/commands";
import { engine } from "../../state/engine";
import { freshId } from "../../state/ids";
import { settleAxis } from "../../state/key-axis";
import { proposing } from "../../state/proposing";
import { partZones } from "../../state/selected-zones";
import { session } from "../../state/session";
import { setView, useView } from "../../state/view";
import { dragZone } from "./field-geometry";

const selected = (): readonly Zone[] => {
  const { instrument } = session;
  return instrument ? partZones(listZones(instrument), useView.getState().zoneIds).chosen : [];
};

const some = () => (selected().length > 0 ? null : "choose a zone first");
const mapped = () => (session.instrument && listZones(session.instrument).length > 0 ? null : "nothing is mapped yet");

function copyZones(): void {
  const zones = selected();
  const shas = new Set(zones.map((z) => z.sample));
  copy({ kind: "zones", zones, samples: session.instrument?.samples.filter((s) => shas.has(s.sha)) ?? [] });
}

function remove(): void {
  session.commit(removeZones(new Set(selected().map((z) => z.id))));
  setView({ zoneIds: new Set() });
}

/** Puts zones into the group of those that are selected, or else the first; they are selected afterwards. */
function add(
  what: string,
  { zones, samples }: { zones: readonly Zone[]; samples: readonly Parameters<typeof addSamples>[0][number][] },
): void {
  const { instrument } = session;
  if (!instrument) return;
  const { zoneIds } = useView.getState();
  const layer =
    instrument.layers.find((l) => l.groups.some((g) => g.zones.some((z) => zoneIds.has(z.id)))) ?? instrument.layers[0];
  const group = layer?.groups.find((g) => g.zones.some((z) => zoneIds.has(z.id))) ?? layer?.groups[0];
  if (!layer || !group) return;
  const taken = new Set(listZones(instrument).map((z) => z.id));
  const mics = new Set(instrument.mics.map((m) => m.id));
  const fresh = zones.map((zone) => {
    const id = freshId(taken);
    taken.add(id);
    return { ...zone, id, mic: zone.mic !== null && mics.has(zone.mic) ? zone.mic : null };
  });
  const known = new Set(instrument.samples.map((s) => s.sha));
  const missing = samples.filter((s) => !known.has(s.sha));
  session.commit(
    together(`${what} ${plural(fresh.length, "zone")}`, [
      ...(missing.length > 0 ? [addSamples(missing)] : []),
      placeZones(layer.id, group.id, fresh, false),
    ]),
  );
  setView({ zoneIds: new Set(fresh.map((z) => z.id)) });
}

const move = (id: string, label: string, chord: string, what: string, change: (zone: Zone) => Zone): Command => ({
  id,
  label,
  chords: [chord],
  repeats: true,
  why: some,
  run: () => session.commit(changeZones(new Set(selected().map((z) => z.id)), what, change), "keys"),
});

/** Moves a zone's velocities together, as far as they go. */
const louder = (zone: Zone, by: number): Zone => {
  const far = Math.max(1 - zone.velLow, Math.min(127 - zone.velHigh, by));
  return { ...zone, velLow: zone.velLow + far, velHigh: zone.velHigh + far };
};

/** Shows all keys that are mapped. */
export function fitKeys(): void {
  const keys = session.instrument && mappedKeys(session.instrument);
  if (keys) setView(settleAxis(keys.low - 2, keys.high - keys.low + 5));
}

/** Sounds the first of the selected zones at its root. */
function hear(): void {
  const [zone] = selected();
  if (!zone) return;
  const key = Math.min(zone.keyHigh, Math.max(zone.keyLow, zone.root));
  engine.noteOn(key, Math.round((zone.velLow + zone.velHigh) / 2));
  setTimeout(() => engine.noteOff(key), 350);
}

/** What can be done with zones: those that are selected. */
export const ZONE_COMMANDS: readonly Command[] = [
  { id: "hear", label: "Hear the zone", chords: ["Enter"], why: some, run: hear },
  { id: "copy", label: "Copy", chords: ["Mod+C"], why: some, run: copyZones },
  {
    id: "cut",
    label: "Cut out",
    chords: ["Mod+X"],
    why: some,
    run: () => {
      copyZones();
      remove();
    },
  },
  {
    id: "paste",
    label: "Paste zones",
    chords: ["Mod+V"],
    why: () => (copied("zones") ? null : "no zones were copied"),
    run: () => {
      const clip = copied("zones");
      if (clip) add("Paste", clip);
    },
  },
  {
    id: "duplicate",
    label: "Duplicate",
    chords: ["Mod+D"],
    why: some,
    run: () => add("Duplicate", { zones: selected(), samples: [] }),
  },
  { id: "remove", label: "Remove", chords: ["Delete", "Backspace"], why: some, run: remove },
];

/** What else Map does by keys. */
export const MAP_COMMANDS: readonly Command[] = [
  ...ZONE_COMMANDS,
  {
    id: "all",
    label: "Select all zones",
    chords: ["Mod+A"],
    why: mapped,
    run: () => setView({ zoneIds: new Set(session.instrument ? listZones(session.instrument).map((z) => z.id) : []) }),
  },
  {
    id: "place",
    label: "Propose places for the samples",
    why: () => (session.instrument && listNotes(session.instrument).length > 0 ? null : "there are no samples yet"),
    run: () => session.instrument && void proposing.propose(listNotes(session.instrument)),
  },
  { id: "fit", label: "Show all mapped keys", why: mapped, run: fitKeys },
  move("keys-down", "Move the zones a key down", "Alt+ArrowLeft", "Move keys", (z) => dragZone(z, "body", -1, 0)),
  move("keys-up", "Move the zones a key up", "Alt+ArrowRight", "Move keys", (z) => dragZone(z, "body", 1, 0)),
  move("softer", "Move the zones to lower velocities", "Alt+ArrowDown", "Move velocities", (z) => louder(z, -1)),
  move("louder", "Move the zones to higher velocities", "Alt+ArrowUp", "Move velocities", (z) => louder(z, 1)),
];
