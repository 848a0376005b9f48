import { type ParamSpec, type ParamValue, unitSpec } from "../params";
import type { Instrument, Layer, Unit } from "./instrument";

/** A parameter found in a document. */
export interface FoundParam {
  readonly address: string;
  readonly spec: ParamSpec;
  readonly unit: Unit;
  /** The layer whose voices it belongs to; null where it is one for the whole instrument. */
  readonly layer: Layer | null;
  readonly value: ParamValue;
  /** Unit and parameter, for people: `Filter cutoff`. */
  readonly label: string;
}

/** Every unit of a document with its address. */
export function listUnits(instrument: Instrument): { address: string; unit: Unit; layer: Layer | null }[] {
  const units: { address: string; unit: Unit; layer: Layer | null }[] = [];
  for (const layer of instrument.layers) {
    const at = `layers/${layer.id}`;
    units.push({ address: `${at}/source`, unit: layer.source, layer });
    for (const stage of layer.stages) units.push({ address: `${at}/stages/${stage.id}`, unit: stage, layer });
    units.push({ address: `${at}/amp`, unit: layer.amp, layer }, { address: `${at}/strip`, unit: layer.strip, layer });
  }
  for (const unit of instrument.lfos) units.push({ address: `lfos/${unit.id}`, unit, layer: null });
  for (const unit of instrument.macros) units.push({ address: `macros/${unit.id}`, unit, layer: null });
  for (const unit of instrument.effects) units.push({ address: `effects/${unit.id}`, unit, layer: null });
  units.push({ address: "play", unit: instrument.play, layer: null });
  return units;
}

function labelOf(instrument: Instrument, unit: Unit, spec: ParamSpec, layer: Layer | null): string {
  if (unit.kind === "macro") return unit.name;
  const own = `${unit.name} ${spec.label.toLowerCase()}`;
  return layer && instrument.layers.length > 1 ? `${layer.name}: ${own}` : own;
}

/** Every parameter of a document. */
export function listParams(instrument: Instrument): FoundParam[] {
  return listUnits(instrument).flatMap(({ address, unit, layer }) =>
    unitSpec(unit.kind).params.map((spec) => ({
      address: `${address}/${spec.id}`,
      spec,
      unit,
      layer,
      value: unit.params[spec.id] ?? spec.default,
      label: labelOf(instrument, unit, spec, layer),
    })),
  );
}

/** The parameter at an address; null where there is none. */
export function findParam(instrument: Instrument, address: string): FoundParam | null {
  const cut = address.lastIndexOf("/");
  const unitAddress = address.slice(0, cut);
  const id = address.slice(cut + 1);
  for (const { address: at, unit, layer } of listUnits(instrument)) {
    if (at !== unitAddress) continue;
    const spec = unitSpec(unit.kind).params.find((p) => p.id === id);
    if (!spec) return null;
    return {
      address,
      spec,
      unit,
      layer,
      value: unit.params[id] ?? spec.default,
      label: labelOf(instrument, unit, spec, layer),
    };
  }
  return null;
}

/** The document with the unit at an address changed; misuse (no such unit) throws RangeError. */
export function changeUnit(instrument: Instrument, address: string, change: (unit: Unit) => Unit): Instrument {
  const [head, id, part, stage] = address.split("/");
  const one = (units: readonly Unit[], wanted: string | undefined): readonly Unit[] => {
    if (!units.some((u) => u.id === wanted)) throw new RangeError(`there is no unit at ${address}`);
    return units.map((u) => (u.id === wanted ? change(u) : u));
  };
  switch (head) {
    case "play":
      return { ...instrument, play: change(instrument.play) };
    case "lfos":
    case "macros":
    case "effects":
      return { ...instrument, [head]: one(instrument[head], id) };
    case "layers": {
      if (!instrument.layers.some((l) => l.id === id)) throw new RangeError(`there is no unit at ${address}`);
      return {
        ...instrument,
        layers: instrument.layers.map((layer) => {
          if (layer.id !== id) return layer;
          if (part === "stages") return { ...layer, stages: one(layer.stages, stage) };
          if (part === "source" || part === "amp" || part === "strip") return { ...layer, [part]: change(layer[part]) };
          throw new RangeError(`there is no unit at ${address}`);
        }),
      };
    }
    default:
      throw new RangeError(`there is no unit at ${address}`);
  }
}
