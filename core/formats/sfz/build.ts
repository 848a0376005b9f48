import {
  type Group,
  type Instrument,
  type Layer,
  newGroup,
  newLayer,
  newRoute,
  newSends,
  newUnit,
  type Route,
  settingOf,
  type Unit,
  type Zone,
} from "../../instrument";
import { plural } from "../../params";
import { unitSpec } from "../../units";
import type { Controllers } from "./controllers";
import type { GateDraft, RouteDraft, SoundDraft, UnitDraft } from "./drafts";

const MOST_LAYERS = 64;
const MOST_GROUPS = 1000;
const MOST_ROUTES = 1000;
const MOST_UNITS = 64;

/** Zones of one condition. */
export interface GateParts {
  readonly draft: GateDraft;
  readonly zones: Zone[];
  /** Whether it is chosen until a keyswitch is pressed. */
  readonly first: boolean;
}
/** Conditions of one sound, by what they are. */
export interface SoundParts {
  readonly draft: SoundDraft;
  readonly gates: Map<string, GateParts>;
  /** The folders of their samples, and the names that the headers above them have. */
  readonly folders: Set<string>;
  readonly labels: Set<string>;
}

/** Gives sounds, conditions and what moves them places in an instrument. */
export class Builder {
  private readonly units = new Map<string, Unit>();
  private readonly envelopes: Unit[] = [];
  private readonly lfos: Unit[] = [];
  private readonly routes: Route[] = [];
  private dropped = 0;

  constructor(
    private readonly controllers: Controllers,
    private readonly problems: string[],
  ) {}

  build(sounds: readonly SoundParts[], empty: Instrument): Instrument {
    const ordered = [...sounds].sort((a, b) => Number(hasFirst(b)) - Number(hasFirst(a)));
    const kept = ordered.slice(0, MOST_LAYERS);
    const layers = kept.map((sound, i) => this.layer(sound, i, kept.length));
    for (const sound of ordered.slice(MOST_LAYERS)) this.squeeze(sound, layers, kept);
    if (ordered.length > MOST_LAYERS)
      this.problems.push(
        `Its regions have ${ordered.length} different envelopes and filters, more than the ${MOST_LAYERS} layers that there can be: ${plural(ordered.length - MOST_LAYERS, "sound")} play with those of another layer.`,
      );
    if (this.dropped > 0)
      this.problems.push(`${plural(this.dropped, "modulation")} beyond the limits of an instrument skipped.`);
    const sends = newSends();
    const used = (n: number): boolean =>
      layers.some((l) => l.groups.some((g) => Number(settingOf(g.settings, `send${n}`)) > -60));
    return {
      ...empty,
      layers: layers.length > 0 ? layers : empty.layers,
      envelopes: this.envelopes,
      lfos: this.lfos,
      macros: this.controllers
        .list()
        .map(({ id, name, value }) => ({ ...newUnit("macro", id, name), params: { value } })),
      mics: [...new Set(layers.flatMap((l) => l.groups.flatMap((g) => g.zones.flatMap((z) => z.mic ?? []))))].map(
        (id) => newUnit("mic", id, id),
      ),
      routes: this.routes,
      effects: [],
      sends: sends.map((send, i) => {
        if (i === 0 && used(1)) return { ...send, name: "Reverb", units: [withMix(newUnit("reverb", "reverb"))] };
        if (i === 1 && used(2)) return { ...send, name: "Chorus", units: [withMix(newUnit("chorus", "chorus"))] };
        return send;
      }),
    };
  }

  private layer({ draft, gates, folders, labels }: SoundParts, at: number, count: number): Layer {
    const id = count === 1 ? "main" : `layer${at + 1}`;
    const parts = [...gates.values()].sort((a, b) => Number(b.first) - Number(a.first));
    const [folder = ""] = folders;
    const [label = ""] = labels;
    const name =
      count === 1 ? "Main" : (labels.size === 1 && label) || (folders.size === 1 && folder) || `Layer ${at + 1}`;
    const shared = new Set(commonOf(parts));
    const { source } = draft;
    const layer: Layer = {
      ...newLayer(id, name.slice(0, 200)),
      source: {
        ...newUnit(source.kind, "source"),
        params: { ...newUnit(source.kind, "source").params, ...source.params },
      },
      stages: draft.filters.map((params, n) => ({ ...newUnit("filter", n === 0 ? "filter" : "filter2"), params })),
      amp: { ...newUnit("amp", "amp"), params: draft.amp },
      strip: withParams(newUnit("strip", "strip"), { level: 0, velocity: draft.velocity }),
      inserts: [
        ...(draft.equaliser ? [withParams(newUnit("equaliser", "equaliser"), draft.equaliser)] : []),
        ...(draft.width === null ? [] : [withParams(newUnit("stereo", "width"), { width: draft.width })]),
      ],
      groups: [],
    };
    for (const route of draft.routes) this.route(route, layer, null);
    const first = parts[0]?.draft.routes ?? [];
    for (const route of first) if (shared.has(JSON.stringify(route))) this.route(route, layer, null);
    return { ...layer, groups: this.groups(parts, layer, shared) };
  }

  private groups(parts: readonly GateParts[], layer: Layer, shared: ReadonlySet<string>): Group[] {
    if (parts.length > MOST_GROUPS)
      this.problems.push(
        `${layer.name}: ${plural(parts.length - MOST_GROUPS, "group")} beyond the ${MOST_GROUPS} that there can be sound as the last one does.`,
      );
    const groups = parts.slice(0, MOST_GROUPS).map(({ draft, zones }, i): Group => {
      const id = parts.length === 1 ? "main" : `group${i + 1}`;
      const name = draft.label ?? groupName(draft, i, parts.length);
      for (const route of draft.routes) if (!shared.has(JSON.stringify(route))) this.route(route, layer, id);
      return { ...newGroup(id, name), settings: withParams(newUnit("group", "settings", name), draft.params), zones };
    });
    const over = parts.slice(MOST_GROUPS).flatMap((p) => p.zones);
    const last = groups.at(-1);
    if (over.length > 0 && last) groups[groups.length - 1] = { ...last, zones: [...last.zones, ...over] };
    return groups;
  }

  /** Puts the zones of a sound for which there is no layer into the first layer of its kind. */
  private squeeze(sound: SoundParts, layers: Layer[], kept: readonly SoundParts[]): void {
    const like = kept.findIndex((k) => k.draft.source.kind === sound.draft.source.kind);
    const layer = layers[like];
    if (!layer) return;
    const taken = layer.groups.length;
    const groups = [...sound.gates.values()].slice(0, MOST_GROUPS - taken).map(({ draft, zones }, i): Group => {
      const id = `more${taken + i}`;
      const name = draft.label ?? groupName(draft, taken + i, taken + i + 1);
      return { ...newGroup(id, name), settings: withParams(newUnit("group", "settings", name), draft.params), zones };
    });
    layers[like] = { ...layer, groups: [...layer.groups, ...groups] };
  }

  private unit(draft: UnitDraft): string | null {
    const key = JSON.stringify(draft);
    const list = draft.kind === "lfo" ? this.lfos : this.envelopes;
    const place = draft.kind === "lfo" ? "lfos" : "envelopes";
    const known = this.units.get(key);
    if (known) return `${place}/${known.id}`;
    if (list.length === MOST_UNITS) return null;
    const id = `${draft.kind === "lfo" ? "lfo" : "env"}${list.length + 1}`;
    const unit: Unit = {
      ...withParams(newUnit(draft.kind, id, draft.name), draft.params),
      ...(draft.curve ? { curve: draft.curve } : {}),
    };
    list.push(unit);
    this.units.set(key, unit);
    for (const route of draft.routes) this.add(route, `${place}/${id}/${route.param}`, route.amount);
    return `${place}/${id}`;
  }

  /** A route to a layer (`group` null: to all of its groups at once) or to one of its groups. */
  private route(route: RouteDraft, layer: Layer, group: string | null): void {
    const { place, param, amount } = route;
    const at = `layers/${layer.id}`;
    const all = place === "group" && group === null;
    if (place === "group" && !all) this.add(route, `${at}/groups/${group}/${param}`, amount);
    else if (all && param === "tuning") {
      if (layer.source.params.transpose !== undefined) this.add(route, `${at}/source/transpose`, amount / 100);
    } else if (all || place === "strip") this.add(route, `${at}/strip/${param}`, amount);
    else if (place === "amp") this.add(route, `${at}/amp/${param}`, amount);
    else if (place !== "unit") this.add(route, `${at}/stages/${place}/${param}`, amount);
  }

  private add(route: RouteDraft, target: string, amount: number): void {
    const source = typeof route.source === "string" ? route.source : this.unit(route.source);
    if (source === null || this.routes.length === MOST_ROUTES) {
      this.dropped++;
      return;
    }
    const { scale, curve, smooth } = route;
    this.routes.push(newRoute({ id: `r${this.routes.length + 1}`, source, target, amount, scale, curve, smooth }));
  }
}

const hasFirst = (sound: SoundParts): boolean => [...sound.gates.values()].some((g) => g.first);

const withParams = (unit: Unit, params: Readonly<Record<string, number | string>>): Unit => ({
  ...unit,
  params: { ...unit.params, ...params },
});

/** A unit in a send gives only its own sound. */
const withMix = (unit: Unit): Unit =>
  unitSpec(unit.kind).params.some((p) => p.id === "mix") ? withParams(unit, { mix: 1 }) : unit;

/** The routes that all conditions of a sound have, as text. */
function commonOf(parts: readonly GateParts[]): string[] {
  const [first, ...others] = parts.map((p) => p.draft.routes.map((r) => JSON.stringify(r)));
  const rest = others.map((o) => new Set(o));
  return (first ?? []).filter((text) => rest.every((o) => o.has(text)));
}

/** What a group is called that has no label. */
function groupName({ params }: GateDraft, at: number, count: number): string {
  if (count === 1) return "Main";
  if (params.trigger === "noteOff") return `Key up ${at + 1}`;
  if (params.trigger === "legato") return `Legato ${at + 1}`;
  return `Group ${at + 1}`;
}
