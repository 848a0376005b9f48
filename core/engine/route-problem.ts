import { OWN_ROWS } from "../dsp";
import {
  controllerOf,
  findParam,
  type Instrument,
  listSources,
  placeInTable,
  settingOf,
  type Unit,
} from "../instrument";
import { unitSpec } from "../units";

/** Settings of a group that are read when a note begins, before it has anything of its own. */
const READ_ONCE: ReadonlySet<string> = new Set(["probability", "chokeFade"]);

/** What belongs to the noise of a strike. */
const NOISE_OF_STRIKE: ReadonlySet<string> = new Set(["cutoff", "noiseLength", "noiseCurve"]);

/** What a filter of a mode has no use for. */
function idleInFilter({ type, model }: Unit["params"], id: string): string | null {
  const hasGain = type === "peak" || type === "lowShelf" || type === "highShelf";
  if (id === "drive" && model === "clean") return "Only the ladder has drive.";
  if (id === "resonanceWidth" && model === "ladder") return "The ladder has constant Q.";
  if (id === "gain" && !hasGain) return "Only peak and shelves have a gain.";
  if (id === "slope" && hasGain) return "Peak and shelves have one slope.";
  return null;
}

/** Why a parameter has no effect as the unit's others are set, as a sentence; null where it has. */
export function idleReason({ kind, params, from }: Unit, id: string): string | null {
  if (kind === "filter") return idleInFilter(params, id);
  if (kind === "rotary" && (id === "slowRate" || id === "fastRate") && `${params.speed}Rate` !== id)
    return params.speed === "stopped" ? "It is stopped." : `It turns ${params.speed === "slow" ? "slowly" : "fast"}.`;
  if (kind === "delay" && id === "duckRelease" && Number(params.ducking) === 0) return "Nothing is ducked.";
  const tempo = params.sync !== undefined && params.sync !== "off";
  if (tempo && id === "rate") return "Its rate follows the tempo.";
  if (tempo && kind === "delay" && id === "time") return "Its time follows the tempo.";
  if (kind === "oscillator") {
    if (id === "phaseModulation" && from === undefined) return "No layer is its input.";
    if (id === "syncPitch" && params.hardSync !== "on") return "Hard sync is off.";
    if ((id === "phaseDistortion" || id === "feedback" || id === "phaseModulation") && params.hardSync === "on")
      return "A synced wave has no start phase.";
    const blends = params.secondWave !== params.wave;
    if (id === "width" && params.wave !== "pulse" && params.secondWave !== "pulse")
      return "Only the pulse has a width.";
    if (id === "blend" && !blends) return "Both waves are the same.";
    if ((id === "subInterval" || id === "subWave") && Number(params.sub) <= -60) return "The sub is off.";
    if ((id === "detune" || id === "spread") && Number(params.unison) < 1.5) return "Unison is 1.";
  }
  if (kind === "noise" && id === "density" && params.colour !== "dust") return "Only dust has a density.";
  if (kind === "ring" && id === (params.tunedBy === "key" ? "frequency" : "ratio"))
    return params.tunedBy === "key" ? "It is tuned by the key." : "It is tuned by frequency.";
  if (kind === "strike" && NOISE_OF_STRIKE.has(id) && Number(params.noise) <= -60) return "The noise is off.";
  const band = kind === "equaliser" ? /^(gain|frequency|q)(\d)$/.exec(id) : null;
  if (band) {
    const does = String(settingOf({ params }, `kind${band[2]}`));
    if (does === "off") return `Band ${band[2]} is off.`;
    if (band[1] === "gain" && (does === "lowCut" || does === "highCut")) return "A cut has no gain.";
  }
  if (kind === "group" && id === "chokeFade" && Number(params.chokeGroup) < 1) return "It chokes no other group.";
  return null;
}

/** Whether a cell of a table is beyond the rows of which notes can have their own: the first that such routes name are those. */
function tooManyRows({ routes }: Instrument, target: string, isOwn: (source: string) => boolean): boolean {
  const place = placeInTable(target);
  if (!place) return false;
  const rows = new Set(
    routes.flatMap((r) => {
      const own = r.on && (isOwn(r.source) || isOwn(r.scale ?? ""));
      const other = own ? placeInTable(r.target) : null;
      return other?.unit === place.unit ? [other.row] : [];
    }),
  );
  return [...rows].indexOf(place.row) >= OWN_ROWS;
}

/** Why a route can have no effect; null when it can. */
export function routeProblem(
  instrument: Instrument,
  route: { id?: string; source: string; target: string; amount: number; on: boolean; scale?: string | null },
): string | null {
  if (!route.on) return "it is switched off";
  const sources = listSources(instrument);
  const sourceOf = (id: string) =>
    sources.find((s) => s.id === id) ??
    (controllerOf(id) === null ? undefined : { label: `CC ${controllerOf(id)}`, perVoice: false });
  const source = sourceOf(route.source);
  if (!source) return "its source is gone";
  const scale = route.scale ? sourceOf(route.scale) : null;
  if (scale === undefined) return "the source that scales it is gone";
  const target = findParam(instrument, route.target);
  if (!target) return "its target is gone";
  if (target.spec.type !== "number" || target.spec.mod === "none") return `${target.label} can't be modulated`;
  if (source.perVoice && !target.perVoice)
    return `${source.label} belongs to each note, ${target.label} to all of them`;
  if (scale?.perVoice && !target.perVoice) return `${scale.label} belongs to each note, ${target.label} to all of them`;
  const own = source.perVoice || scale?.perVoice === true;
  const moved = instrument.routes.some((r) => r.on && r.target === `routes/${route.id}/amount`);
  if (route.amount === 0 && !moved) return "its depth is zero";
  if (own && tooManyRows(instrument, route.target, (id) => sourceOf(id)?.perVoice === true))
    return `notes can have ${OWN_ROWS} ${target.unit ? unitSpec(target.unit.kind).table?.row : "row"}s of their own, and others are moved already`;
  if (target.unit?.kind === "filter" && target.unit.params.type === "off") return "the filter is off";
  const place = placeInTable(route.target)?.unit ?? route.target.slice(0, route.target.lastIndexOf("/"));
  const switched = instrument.routes.some((r) => r.on && r.target === `${place}/on`);
  if (target.spec.id !== "on" && Number(target.unit?.params.on ?? 1) < 0.5 && !switched)
    return `${target.unit?.name ?? "its unit"} is switched off`;
  if (own && target.unit?.kind === "group" && READ_ONCE.has(target.spec.id))
    return `${target.label} is read before there is a note that could have a ${source.label.toLowerCase()}`;
  const idle = target.unit && idleReason(target.unit, target.spec.id);
  return idle ? `${idle.charAt(0).toLowerCase()}${idle.slice(1, -1)}` : null;
}
