import { controllerOf, type FoundParam, type Layer, SOURCES } from "../instrument";

/** Columns that every plan has: values of which each voice has its own. Envelopes, LFOs and routed parameters follow. */
export const COLUMN = {
  velocity: 0,
  release: 1,
  key: 2,
  random: 3,
  repeat: 4,
  time: 5,
  notePressure: 6,
  slide: 7,
  amp: 8,
} as const;
export const FIXED_COLUMNS = 9;

/** Values after the slots that all voices share: wheels and pressure, then 128 controllers, then the LFOs that are one for all. */
export const GLOBAL = { wheel: 0, pressure: 1, bend: 2, controllers: 3 } as const;
export const GLOBALS = 131;

/** The operand that reads a column, and the one that reads a shared value after `slots` slots. */
export const columnAt = (column: number): number => -1 - column;
export const globalAt = (slots: number, index: number): number => slots + index;

/** One route of a target. `memory` is a column (or a shared place) that holds its smoothed value; −1 for none. */
export interface RoutePlan {
  readonly source: number;
  /** An operand by which it is multiplied. */
  readonly scale: number | null;
  readonly amount: number;
  /** A line of the plan that shapes the source; −1 for none. */
  readonly line: number;
  /** Time constant in seconds; 0 for none. */
  readonly smooth: number;
  readonly memory: number;
}

/** A parameter with the routes that move it: into its column, or (column −1) for all voices. */
export interface TargetPlan {
  readonly slot: number;
  readonly column: number;
  readonly routes: readonly RoutePlan[];
}

/** One thing to compute at a control step. `column` is where its result goes; of shared LFOs the shared place. */
export type Step =
  | { readonly kind: "amp" }
  | { readonly kind: "envelope"; readonly index: number; readonly column: number }
  | { readonly kind: "lfo"; readonly index: number; readonly column: number }
  | { readonly kind: "target"; readonly target: TargetPlan };

interface LiveRoute {
  readonly id: string;
  readonly source: string;
  readonly scale: string | null;
  readonly smooth: number | null;
  readonly slot: number;
  readonly amountSlot: number;
  readonly line: number;
}

/** How the names of what routes remember for their smoothing begin. */
export const SMOOTHING = "smooth ";
/** Smoothing of what comes in steps from outside. */
const USUAL_SMOOTHING = 0.005;

/** Orders what is computed at a control step: sources before the parameters they move, those before what depends on them. */
export class ModulationPlanner {
  columns = FIXED_COLUMNS;
  memories = 0;
  /** What stands in each column beyond the fixed ones, and in each shared memory: by it a new plan finds it again. */
  readonly columnNames: string[] = [];
  readonly memoryNames: string[] = [];
  private readonly columnOf = new Map<number, number>();
  private readonly byTarget = new Map<number, LiveRoute[]>();
  private readonly perVoiceSlots = new Set<number>();
  private readonly targets = new Map<string, TargetPlan>();

  constructor(
    private readonly params: readonly FoundParam[],
    private readonly envelopes: readonly string[],
    private readonly lfos: readonly { readonly id: string; readonly perVoice: boolean }[],
    routes: readonly LiveRoute[],
    private readonly slotOf: (address: string) => number,
  ) {
    this.columns += envelopes.length + lfos.length;
    this.columnNames.push(...envelopes.map((id) => `envelopes/${id}`), ...lfos.map(({ id }) => `lfos/${id}`));
    for (const route of routes) this.byTarget.set(route.slot, [...(this.byTarget.get(route.slot) ?? []), route]);
    // A route is computed for each voice when anything in it is; so is what it moves. Amounts that are moved come first.
    for (let found = true; found; ) {
      found = false;
      for (const route of routes) {
        if (this.perVoiceSlots.has(route.slot) || !this.isPerVoice(route)) continue;
        this.perVoiceSlots.add(route.slot);
        found = true;
      }
    }
    for (const slot of this.perVoiceSlots) this.columnOf.set(slot, this.column(params[slot]?.address ?? ""));
  }

  private column(name: string): number {
    this.columnNames.push(name);
    return this.columns++;
  }

  private memory(name: string, own: boolean): number {
    if (own) return this.column(name);
    this.memoryNames.push(name);
    return this.memories++;
  }

  /** The operand that reads a parameter. */
  operand(slot: number): number {
    const column = this.columnOf.get(slot);
    return column === undefined ? slot : columnAt(column);
  }

  private isPerVoice(route: LiveRoute): boolean {
    return (
      this.sourceOperand(route.source) < 0 ||
      (route.scale !== null && this.sourceOperand(route.scale) < 0) ||
      this.perVoiceSlots.has(route.amountSlot)
    );
  }

  private sourceOperand(source: string): number {
    const slots = this.params.length;
    if (source in COLUMN) return columnAt(COLUMN[source as keyof typeof COLUMN]);
    if (source === "wheel" || source === "pressure" || source === "bend") return globalAt(slots, GLOBAL[source]);
    const controller = controllerOf(source);
    if (controller !== null) return globalAt(slots, GLOBAL.controllers + controller);
    const [list, id] = source.split("/");
    if (list === "envelopes") return columnAt(FIXED_COLUMNS + this.envelopes.indexOf(id ?? ""));
    if (list === "lfos") {
      const index = this.lfos.findIndex((l) => l.id === id);
      const own = this.lfos[index]?.perVoice ?? true;
      return own ? columnAt(FIXED_COLUMNS + this.envelopes.length + index) : globalAt(slots, GLOBALS + index);
    }
    return this.operand(this.slotOf(`${source}/value`));
  }

  private target(slot: number, own: boolean): TargetPlan {
    const id = `${slot}:${own}`;
    const known = this.targets.get(id);
    if (known) return known;
    const routes = (this.byTarget.get(slot) ?? []).filter((r) => this.isPerVoice(r) === own);
    const made: TargetPlan = {
      slot,
      column: own ? (this.columnOf.get(slot) ?? -1) : -1,
      routes: routes.map((r) => {
        const stepped = [r.source, r.scale].some(
          (s) => SOURCES.find((x) => x.id === s)?.stepped || controllerOf(s ?? "") !== null,
        );
        const smooth = r.smooth ?? (stepped ? USUAL_SMOOTHING : 0);
        return {
          source: this.sourceOperand(r.source),
          scale: r.scale === null ? null : this.sourceOperand(r.scale),
          amount: this.operand(r.amountSlot),
          line: r.line,
          smooth,
          memory: smooth > 0 ? this.memory(`${SMOOTHING}${r.id}`, own) : -1,
        };
      }),
    };
    this.targets.set(id, made);
    return made;
  }

  /** What is computed for each voice of a layer. */
  layerProgram(layer: Layer): Step[] {
    const walk = new Walk(this, true, layer);
    for (const [slot, { layer: own, address }] of this.params.entries()) {
      if (own === layer.id && this.perVoiceSlots.has(slot) && !address.startsWith("routes/")) walk.slot(slot);
    }
    walk.amp();
    return walk.steps;
  }

  /** What is computed once for all voices. */
  sharedProgram(): Step[] {
    const walk = new Walk(this, false, null);
    this.lfos.forEach((lfo, i) => {
      if (!lfo.perVoice) walk.lfo(i);
    });
    for (const slot of this.byTarget.keys()) walk.slot(slot);
    return walk.steps;
  }

  /** Steps that a slot needs before it can be read; used by Walk. */
  visitSlot(walk: Walk, slot: number, own: boolean): void {
    const routes = (this.byTarget.get(slot) ?? []).filter((r) => this.isPerVoice(r) === own);
    for (const route of routes) {
      this.visitSource(walk, route.source);
      if (route.scale) this.visitSource(walk, route.scale);
      walk.slot(route.amountSlot);
    }
    if (routes.length > 0) walk.steps.push({ kind: "target", target: this.target(slot, own) });
  }

  private visitSource(walk: Walk, source: string): void {
    const [list, id] = source.split("/");
    if (list === "lfos") walk.lfo(this.lfos.findIndex((l) => l.id === id));
    else if (list === "envelopes") walk.envelope(this.envelopes.indexOf(id ?? ""));
    else if (source === "amp") walk.amp();
  }

  visitLfo(walk: Walk, index: number, own: boolean): void {
    const lfo = this.lfos[index];
    if (!lfo || lfo.perVoice !== own) return;
    for (const id of ["rate", "phase", "delay", "fadeIn"]) walk.slot(this.slotOf(`lfos/${lfo.id}/${id}`));
    const column = own ? FIXED_COLUMNS + this.envelopes.length + index : globalAt(this.params.length, GLOBALS + index);
    walk.steps.push({ kind: "lfo", index, column });
  }

  visitEnvelope(walk: Walk, index: number): void {
    this.visitUnit(walk, `envelopes/${this.envelopes[index]}/`);
    walk.steps.push({ kind: "envelope", index, column: FIXED_COLUMNS + index });
  }

  visitUnit(walk: Walk, prefix: string): void {
    for (const [slot, param] of this.params.entries()) if (param.address.startsWith(prefix)) walk.slot(slot);
  }
}

/** One walk through what depends on what; each thing is visited once, so that a ring is cut where it was entered. */
class Walk {
  readonly steps: Step[] = [];
  private readonly seen = new Set<string>();

  constructor(
    private readonly planner: ModulationPlanner,
    private readonly own: boolean,
    private readonly layer: Layer | null,
  ) {}

  private once(id: string): boolean {
    if (this.seen.has(id)) return false;
    this.seen.add(id);
    return true;
  }

  slot(slot: number): void {
    if (this.once(`slot ${slot}`)) this.planner.visitSlot(this, slot, this.own);
  }
  lfo(index: number): void {
    if (this.once(`lfo ${index}`)) this.planner.visitLfo(this, index, this.own);
  }
  envelope(index: number): void {
    if (this.own && this.once(`envelope ${index}`)) this.planner.visitEnvelope(this, index);
  }
  amp(): void {
    if (!this.layer || !this.once("amp")) return;
    this.planner.visitUnit(this, `layers/${this.layer.id}/amp/`);
    this.steps.push({ kind: "amp" });
  }
}
