import {
  addSamples,
  changeZones,
  type Instrument,
  listNotes,
  listUnplayed,
  listZones,
  placeZones,
  removeZones,
  together,
  type Zone,
} from "../../../core/instrument";
import { crossfadeZones, dragZones, mappedKeys, readZoneTable, shiftedCopy, zoneTable } from "../../../core/mapping";
import { few, plural } from "../../../core/params";
import { copied, copy } from "../../state/clipboard";
import type { Command } from "../../state/commands";
import { engine } from "../../state/engine";
import { freshId } from "../../state/ids";
import { settleAxis } from "../../state/key-axis";
import { tell } from "../../state/notices";
import { proposing } from "../../state/proposing";
import { partZones } from "../../state/selected-zones";
import { session } from "../../state/session";
import { settleVelocities } from "../../state/velocity-axis";
import { setView, useView } from "../../state/view";
import { PART_COMMANDS } from "./outline/outline-commands";

const selected = (): readonly Zone[] => {
  const { instrument } = session;
  return instrument ? partZones(listZones(instrument), useView.getState().zoneIds).chosen : [];
};

const some = () => (selected().length > 0 ? null : "select a zone first");
const mapped = () => (session.instrument && listZones(session.instrument).length > 0 ? null : "nothing is mapped yet");

function copyZones(): void {
  const zones = selected();
  const shas = new Set(zones.map((z) => z.sample));
  copy({ kind: "zones", zones, samples: session.instrument?.samples.filter((s) => shas.has(s.sha)) ?? [] });
  // Elsewhere, such as in a spreadsheet, they are a table.
  const { instrument } = session;
  if (instrument)
    void navigator.clipboard?.writeText(zoneTable(instrument, new Set(zones.map((z) => z.id)))).catch(() => {});
}

/** Takes a table from the clipboard, such as from a spreadsheet: by its column of zones, else for the selected zones in their order. */
async function pasteTable(): Promise<void> {
  const { instrument } = session;
  if (!instrument) return;
  let text: string;
  try {
    text = await navigator.clipboard.readText();
  } catch {
    tell("error", "The browser didn’t give the clipboard: allow it for this page, and paste again.");
    return;
  }
  const all = listZones(instrument);
  const { changes, problems } = readZoneTable(text, text.startsWith("zone\t") ? all : selected());
  if (changes.size > 0)
    session.commit(changeZones(new Set(changes.keys()), "Paste a table", (z) => ({ ...z, ...changes.get(z.id) })));
  const told = problems.length > 0 ? `; ${few(problems, "; ")}` : "";
  tell(
    problems.length > 0 ? "warning" : "good",
    `${plural(changes.size, "zone was", "zones were")} changed by the table${told}.`,
    changes.size > 0 ? session.undoAction() : null,
  );
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

/** Moves the selected zones together, as far as all of them go. */
function moveBy(what: string, keys: number, velocities: number, roots: boolean): void {
  const moved = dragZones(selected(), [], { part: "body", keys, velocities, roots });
  session.commit(
    changeZones(new Set(moved.keys()), what, (z) => moved.get(z.id) ?? z),
    "keys",
  );
}

const move = (id: string, label: string, chord: string, run: () => void): Command => ({
  id,
  label,
  chords: [chord],
  repeats: true,
  why: some,
  run,
});

/** Velocities over which layers fade into one another by one command. */
const FADE = 16;

/** Lets the selected zones fade into their neighbours among them, or parts them again. */
function crossfade(along: "velocities" | "keys", width: number): void {
  const { instrument } = session;
  if (!instrument) return;
  const changed = crossfadeZones(instrument, useView.getState().zoneIds, along, width);
  if (changed.size === 0) {
    tell("warning", "Of the selected zones none lies above or beside another of its group.");
    return;
  }
  session.commit(changeZones(new Set(changed.keys()), width > 0 ? "Crossfade" : "Part", (z) => changed.get(z.id) ?? z));
}

/** Parts what fades into one another, in velocities and keys. */
function part(): void {
  const ids = useView.getState().zoneIds;
  const fades = selected().some((z) => z.velFadeLow + z.velFadeHigh + z.keyFadeLow + z.keyFadeHigh > 0);
  if (!fades) {
    tell("warning", "None of the selected zones fades.");
    return;
  }
  const along = (doc: Instrument, axis: "velocities" | "keys"): Instrument => {
    const apart = crossfadeZones(doc, ids, axis, 0);
    return changeZones(new Set(apart.keys()), "Part", (z) => apart.get(z.id) ?? z).apply(doc);
  };
  session.commit({ name: "Part what fades", apply: (doc) => along(along(doc, "velocities"), "keys") });
}

/** Selects all zones that share something with those that are selected. */
function selectAlike(of: (zone: Zone, group: string) => string): void {
  const { instrument } = session;
  if (!instrument) return;
  const all = instrument.layers.flatMap((l) =>
    l.groups.flatMap((g) => g.zones.map((zone) => ({ zone, text: of(zone, `${l.id}/${g.id}`) }))),
  );
  const { zoneIds } = useView.getState();
  const wanted = new Set(all.filter(({ zone }) => zoneIds.has(zone.id)).map(({ text }) => text));
  setView({ zoneIds: new Set(all.filter(({ text }) => wanted.has(text)).map(({ zone }) => zone.id)) });
}

const alike = (id: string, label: string, of: (zone: Zone, group: string) => string): Command => ({
  id,
  label,
  why: some,
  run: () => selectAlike(of),
});

/** Ways to select more zones, from those that are. */
export const SELECT_COMMANDS: readonly Command[] = [
  alike("same-velocities", "Select all of the same velocities", (z) => `${z.velLow}-${z.velHigh}`),
  alike("same-root", "Select all of the same root", (z) => String(z.root)),
  alike("same-repeat", "Select all of the same repeat", (z) => String(z.repeat)),
  alike("same-group", "Select all of the same group", (_, group) => group),
  alike("same-sample", "Select all that play the same sample", (z) => z.sample ?? ""),
  {
    id: "invert",
    label: "Select all others",
    why: mapped,
    run: () => {
      const { zoneIds } = useView.getState();
      const zones = session.instrument ? listZones(session.instrument) : [];
      setView({ zoneIds: new Set(zones.filter((z) => !zoneIds.has(z.id)).map((z) => z.id)) });
    },
  },
];

/** Shows all keys that are mapped. */
export function fitKeys(): void {
  const keys = session.instrument && mappedKeys(session.instrument);
  if (keys) setView({ ...settleAxis(keys.low - 2, keys.high - keys.low + 5), ...settleVelocities(0, 127) });
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
    id: "paste-table",
    label: "Paste a table from a spreadsheet",
    chords: ["Mod+Shift+V"],
    run: () => void pasteTable(),
  },
  {
    id: "duplicate",
    label: "Duplicate",
    chords: ["Mod+D"],
    why: some,
    run: () => add("Duplicate", { zones: selected(), samples: [] }),
  },
  {
    id: "duplicate-next",
    label: "Duplicate to the next note",
    chords: ["Mod+Shift+D"],
    why: some,
    run: () => add("Duplicate", { zones: shiftedCopy(selected(), 1), samples: [] }),
  },
  {
    id: "crossfade",
    label: `Fade velocity layers into one another (${FADE} velocities)`,
    why: some,
    run: () => crossfade("velocities", FADE),
  },
  {
    id: "crossfade-keys",
    label: "Fade into the neighbouring keys (4 keys)",
    why: some,
    run: () => crossfade("keys", 4),
  },
  {
    id: "part",
    label: "Part what fades into one another",
    why: some,
    run: part,
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
    why: () => (session.instrument && listUnplayed(session.instrument).length > 0 ? null : "none waits"),
    run: () => session.instrument && void proposing.propose(listUnplayed(session.instrument)),
  },
  {
    id: "place-anew",
    label: "Propose places for all samples anew",
    why: () => (session.instrument && listNotes(session.instrument).length > 0 ? null : "there are no samples yet"),
    run: () => session.instrument && void proposing.propose(listNotes(session.instrument)),
  },
  { id: "fit", label: "Show all mapped keys", why: mapped, run: fitKeys },
  ...SELECT_COMMANDS,
  ...PART_COMMANDS,
  {
    id: "zoom-velocities",
    label: "Look closer at velocities",
    why: mapped,
    run: () => {
      const { velFrom, velTo } = useView.getState();
      const size = (velTo - velFrom) / 2;
      setView(settleVelocities(velFrom + size / 2, size));
    },
  },
  move("keys-down", "Move the zones a key down", "Alt+ArrowLeft", () => moveBy("Move keys", -1, 0, false)),
  move("keys-up", "Move the zones a key up", "Alt+ArrowRight", () => moveBy("Move keys", 1, 0, false)),
  move("roots-down", "Move the zones with their roots a key down", "Alt+Shift+ArrowLeft", () =>
    moveBy("Move keys and roots", -1, 0, true),
  ),
  move("roots-up", "Move the zones with their roots a key up", "Alt+Shift+ArrowRight", () =>
    moveBy("Move keys and roots", 1, 0, true),
  ),
  move("softer", "Move the zones to lower velocities", "Alt+ArrowDown", () => moveBy("Move velocities", 0, -1, false)),
  move("louder", "Move the zones to higher velocities", "Alt+ArrowUp", () => moveBy("Move velocities", 0, 1, false)),
];
