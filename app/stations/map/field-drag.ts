import { nameOfNote } from "../../../core/audio";
import { changeZones, type Instrument, type Zone } from "../../../core/instrument";
import { type DraggedPart, dragZones, zonesBeside } from "../../../core/mapping";
import { plural } from "../../../core/params";
import { session } from "../../state/session";
import { type FadePart, type Hit, withFade } from "./field-geometry";

/** What a drag over the field has taken hold of: zones by a part of them, a fade, or a corner of the box in which zones are chosen. */
export type Grip =
  | {
      readonly kind: "zones";
      readonly part: DraggedPart;
      readonly ids: ReadonlySet<string>;
      /** The zones as they stood, those at the same boundary, and those behind it. */
      readonly before: readonly Zone[];
      readonly along: readonly Zone[];
      readonly beside: readonly Zone[];
      readonly key: number;
      readonly velocity: number;
    }
  | {
      readonly kind: "fade";
      readonly part: FadePart;
      readonly ids: ReadonlySet<string>;
      readonly before: ReadonlyMap<string, Zone>;
      readonly key: number;
      readonly velocity: number;
    }
  | { readonly kind: "box"; readonly x: number; readonly y: number; readonly kept: ReadonlySet<string> };

/** Takes hold of zones by a part; `locked` zones stay where they are, whatever boundary they share. */
export function gripOf(
  instrument: Instrument,
  zones: readonly Zone[],
  ids: ReadonlySet<string>,
  part: DraggedPart,
  at: { readonly key: number; readonly velocity: number },
): Grip {
  const boundary = zonesBeside(instrument, ids, part);
  const among = (set: ReadonlySet<string>) => zones.filter((z) => set.has(z.id));
  return {
    kind: "zones",
    part,
    ids,
    before: among(ids),
    along: among(boundary.along),
    beside: among(boundary.beside),
    ...at,
  };
}

const WHAT: Readonly<Record<DraggedPart, string>> = {
  body: "Move",
  left: "Set range",
  right: "Set range",
  top: "Set range",
  bottom: "Set range",
};

const rangeText = (zone: Zone): string => {
  const keys =
    zone.keyLow === zone.keyHigh ? nameOfNote(zone.keyLow) : `${nameOfNote(zone.keyLow)}–${nameOfNote(zone.keyHigh)}`;
  const numbers = zone.keyLow === zone.keyHigh ? zone.keyLow : `${zone.keyLow}–${zone.keyHigh}`;
  return `${keys} · ${numbers} · velocity ${zone.velLow}–${zone.velHigh} · root ${nameOfNote(zone.root)}`;
};

/** What of a place matters to a drag: its key, its velocity, or both; as long as it is the same nothing changes. */
export function stepOf(
  { kind, part }: Exclude<Grip, { kind: "box" }>,
  { key, velocity }: { readonly key: number; readonly velocity: number },
  upright: boolean,
): string {
  if (kind === "fade") return part === "fadeLeft" || part === "fadeRight" ? `key ${key}` : `velocity ${velocity}`;
  const across = part === "body" ? !upright : part === "left" || part === "right";
  return across ? `key ${key}` : `velocity ${velocity}`;
}

/** Moves what is held by a grip to a key and velocity; what is read while it is dragged. `alone`: only the chosen edge moves, or roots go along with the body. */
export function dragTo(
  grip: Exclude<Grip, { kind: "box" }>,
  to: { readonly key: number; readonly velocity: number },
  alone: boolean,
  upright: boolean,
  gesture: string,
): string {
  if (grip.kind === "fade") {
    const change = (zone: Zone): Zone => {
      const faded = withFade(grip.before.get(zone.id) ?? zone, grip.part, to.key, to.velocity);
      const { keyFadeLow, keyFadeHigh, velFadeLow, velFadeHigh } = faded;
      return { ...zone, keyFadeLow, keyFadeHigh, velFadeLow, velFadeHigh };
    };
    session.commit({ ...changeZones(grip.ids, "Set fade", change), anew: true }, gesture);
    const [first] = grip.before.values();
    const now = first && change(first);
    return now
      ? `fade in ${now.keyFadeLow} and out ${now.keyFadeHigh} keys, ${now.velFadeLow} and ${now.velFadeHigh} velocities`
      : "";
  }
  const { part, before } = grip;
  const shared = !alone && part !== "body";
  const dragged = shared ? [...before, ...grip.along] : before;
  const beside = shared ? grip.beside : [];
  const moved = dragZones(dragged, beside, {
    part,
    keys: part === "body" && upright ? 0 : to.key - grip.key,
    velocities: part === "body" && !upright ? 0 : to.velocity - grip.velocity,
    roots: alone && part === "body",
  });
  // Whoever was moved along before, and isn't any more, goes back to where it stood.
  const all = new Map([...before, ...grip.along, ...grip.beside].map((z) => [z.id, moved.get(z.id) ?? z]));
  const change = (zone: Zone): Zone => {
    const { keyLow, keyHigh, velLow, velHigh, root } = all.get(zone.id) ?? zone;
    return { ...zone, keyLow, keyHigh, velLow, velHigh, root };
  };
  // Anew from where the drag began: fades that a narrow range cut short come back when it is drawn wide again.
  session.commit({ ...changeZones(new Set(all.keys()), WHAT[part], change), anew: true }, gesture);
  const [first] = before;
  const now = first && all.get(first.id);
  if (!now) return "";
  const notes = [
    before.length > 1 ? plural(before.length, "zone") : "",
    part === "body" ? (alone ? "with their roots" : "Alt: with their roots") : "",
    beside.length > 0 ? "the neighbours too; Alt: alone" : "",
  ].filter((t) => t !== "");
  return notes.length > 0 ? `${rangeText(now)}\n${notes.join(" · ")}` : rangeText(now);
}

/** The zones that a press on a stack chooses: with `more` those besides, else the whole selection where the stack is part of it. */
export function chosenBy(hit: Hit, chosen: ReadonlySet<string>, more: boolean): ReadonlySet<string> {
  const own = hit.stack.zones.map((z) => z.id);
  if (more) return new Set([...chosen, ...own]);
  return own.some((id) => chosen.has(id)) && chosen.size > 1 ? chosen : new Set(own);
}
