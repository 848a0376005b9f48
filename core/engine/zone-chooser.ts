import type { Random } from "../audio";
import type { Zone } from "../instrument";
import { choiceAt } from "../units";
import type { Modulation } from "./modulation";
import type { Mutes } from "./mutes";
import type { GroupPlan, LayerPlan, Plan } from "./plan";
import { GLOBAL } from "./plan-modulation";
import type { SharedParts } from "./shared-parts";
import { REASON, type Reason, type TraceLog } from "./trace";
import type { ZoneRef } from "./voice";
import type { ZoneTable } from "./zone-table";

/** When a group's zones sound, by the number of the choice. */
export const MOMENT = {
  press: choiceAt("group", "trigger", "noteOn"),
  release: choiceAt("group", "trigger", "noteOff"),
  first: choiceAt("group", "trigger", "firstNote"),
  legato: choiceAt("group", "trigger", "legato"),
} as const;
const ORDER = choiceAt("group", "roundRobin", "cycle");
const FRESH_RANDOM = choiceAt("group", "roundRobin", "noRepeats");
const HELD = choiceAt("group", "keyswitch", "momentary");
const LATCHED = choiceAt("group", "keyswitch", "latched");

const MOST_CHOSEN = 256;
const MOST_CANDIDATES = 128;
/** Fades below this are silence. */
const SILENT = 1e-4;

/** Weight (0–1) of a value in a range that fades at both ends, by equal power: neighbours whose fades overlap sum to 1 in power. */
export function fadeWeight(value: number, low: number, high: number, fadeLow: number, fadeHigh: number): number {
  let weight = 1;
  if (fadeLow > 0 && value < low + fadeLow) weight *= Math.sin(((value - low) / fadeLow) * (Math.PI / 2));
  if (fadeHigh > 0 && value > high - fadeHigh) weight *= Math.sin(((high - value) / fadeHigh) * (Math.PI / 2));
  return weight < 0 ? 0 : weight;
}

/** Chooses the zones that sound for a note. The result stands in `chosen`, `weights` and `count`; nothing is allocated. */
export class ZoneChooser {
  readonly chosen: (ZoneRef | null)[] = new Array(MOST_CHOSEN).fill(null);
  /** Factor of each chosen zone's fades. */
  readonly weights = new Float64Array(MOST_CHOSEN);
  /** The key from which each was borrowed, else the note's own. */
  readonly keys = new Int32Array(MOST_CHOSEN);
  count = 0;
  private counters = new Uint32Array(0);
  private lasts = new Int32Array(0);
  private readonly candidateRepeat = new Int32Array(MOST_CANDIDATES);
  private readonly candidateKey = new Int32Array(MOST_CANDIDATES);
  private candidates = 0;
  /** The microphone whose group was asked first for a note, in which layer, and the repeat that it got and from which key; −1 for none. */
  private ledMic = -1;
  private ledLayer = -1;
  private ledRepeat = -1;
  private ledKey = -1;
  private readonly down = new Uint8Array(128);
  private readonly isSwitch = new Uint8Array(128);
  private latched = -1;

  private readonly table: ZoneTable;
  private readonly modulation: Modulation;
  private readonly trace: TraceLog;
  private readonly mutes: Mutes;

  constructor({ table, modulation, trace, mutes }: SharedParts) {
    this.table = table;
    this.modulation = modulation;
    this.trace = trace;
    this.mutes = mutes;
  }

  /** A new plan: repeats go on where groups are as many as before. */
  setPlan(): void {
    const { groups } = this.table;
    if (this.counters.length !== groups.length * 128) {
      this.counters = new Uint32Array(groups.length * 128);
      this.lasts = new Int32Array(groups.length * 128).fill(-1);
    }
  }

  /** A key went down or up, for keyswitches. */
  key(key: number, down: boolean): void {
    this.down[key] = down ? 1 : 0;
    if (!down) return;
    this.findSwitches();
    if (this.isSwitch[key] === 1) this.latched = key;
  }

  private param(group: GroupPlan, id: keyof GroupPlan["params"]): number {
    const at = group.params[id];
    return at === undefined ? 0 : this.modulation.read(at, 0);
  }

  private findSwitches(): void {
    const { groups } = this.table;
    this.isSwitch.fill(0);
    let first = -1;
    for (let g = 0; g < groups.length; g++) {
      const group = groups[g] as GroupPlan;
      if (this.param(group, "keyswitch") !== LATCHED) continue;
      const key = Math.round(this.param(group, "switchKey"));
      if (first < 0) first = key;
      this.isSwitch[key] = 1;
    }
    // Something is always chosen: until a switch is pressed, the first.
    if (this.latched < 0 || this.isSwitch[this.latched] === 0) this.latched = first;
  }

  /** Whether a layer sounds at all: always, or as the one chosen of its set. */
  private chosenLayer(layer: LayerPlan): boolean {
    const { set } = layer;
    if (!set) return true;
    const wanted = Math.round(this.modulation.shared[set.chosen] as number);
    return Math.max(1, Math.min(set.count, wanted)) === set.own;
  }

  /** Why a group stays silent now; REASON.played when it may sound. */
  private gate(plan: Plan, g: number, moment: number, first: boolean, random: Random): Reason {
    if (this.mutes.ofGroup(g)) return REASON.muted;
    const group = this.table.groups[g] as GroupPlan;
    const layer = plan.layers[this.table.layerOf[g] as number] as LayerPlan;
    if (!this.chosenLayer(layer)) return REASON.set;
    const trigger = this.param(group, "trigger");
    if (moment === MOMENT.legato || moment === MOMENT.release) {
      if (trigger !== moment) return REASON.trigger;
    } else if (trigger === MOMENT.release) return REASON.trigger;
    else if (trigger === MOMENT.first && !first) return REASON.trigger;
    else if (trigger === MOMENT.legato && first) return REASON.trigger;
    const kind = this.param(group, "keyswitch");
    const switchKey = Math.round(this.param(group, "switchKey"));
    if (kind === HELD && this.down[switchKey] !== 1) return REASON.keyswitch;
    if (kind === LATCHED && this.latched !== switchKey) return REASON.keyswitch;
    const controller = Math.round(this.param(group, "controller"));
    if (controller >= 0) {
      const index = controller === 1 ? GLOBAL.wheel : GLOBAL.controllers + controller;
      const value = Math.round(this.modulation.input(index) * 127);
      if (value < this.param(group, "controllerLow") || value > this.param(group, "controllerHigh"))
        return REASON.controller;
    }
    const chance = this.param(group, "probability");
    if (chance < 1 && random() >= chance) return REASON.chance;
    return REASON.played;
  }

  /** Chooses for a key and velocity at a moment; `first`: no other key is held. Tells the trace what is passed over and why. */
  choose(plan: Plan, key: number, velocity: number, moment: number, first: boolean, random: Random): void {
    const { table, trace } = this;
    this.count = 0;
    this.ledMic = -1;
    this.findSwitches();
    const total = table.countAt(key);
    trace.skip(table.refs.length - total);
    for (let n = 0; n < total; ) {
      const g = table.at(key, n).group;
      let end = n + 1;
      while (end < total && table.at(key, end).group === g) end++;
      const reason = this.gate(plan, g, moment, first, random);
      if (reason === REASON.played) this.chooseInGroup(g, key, velocity, n, end, random);
      else for (let z = n; z < end; z++) this.pass(table.at(key, z), reason);
      n = end;
    }
  }

  private pass(ref: ZoneRef, reason: Reason): void {
    this.trace.zone(ref.layer, ref.index, reason, 0, 0, 0);
  }

  private chooseInGroup(g: number, key: number, velocity: number, from: number, to: number, random: Random): void {
    const { table } = this;
    const group = table.groups[g] as GroupPlan;
    this.candidates = 0;
    this.collect(key, velocity, from, to);
    const borrow = Math.round(this.param(group, "borrow"));
    for (let d = 1; d <= borrow && this.candidates > 0; d++) {
      this.borrowFrom(g, key, key - d, velocity);
      this.borrowFrom(g, key, key + d, velocity);
    }
    const mic = this.micOf(key, velocity, from, to);
    const pick = this.pick(group, g * 128 + key, this.ledPick(g, mic), random);
    // The groups of a layer come one after the other: the first of the next one leads there.
    if (pick >= 0 && mic >= 0 && (this.ledMic < 0 || this.ledLayer !== table.layerOf[g])) this.lead(g, mic, pick);
    const source = pick < 0 ? key : (this.candidateKey[pick] as number);
    const repeat = pick < 0 ? 0 : (this.candidateRepeat[pick] as number);
    for (let n = from; n < to; n++) {
      const ref = table.at(key, n);
      const { zone } = ref;
      if (!answers(zone, velocity)) this.pass(ref, REASON.velocity);
      else if (this.mutes.of(ref)) this.pass(ref, REASON.muted);
      else if (!isReady(ref)) this.pass(ref, table.isComing(ref) ? REASON.coming : REASON.missing);
      else if (source !== key || zone.repeat !== repeat) this.pass(ref, REASON.repeat);
      else this.take(ref, key, key, velocity);
    }
    if (source === key) return;
    const count = table.countAt(source);
    for (let n = 0; n < count; n++) {
      const ref = table.at(source, n);
      if (ref.group === g && this.sounds(ref) && ref.zone.repeat === repeat && answers(ref.zone, velocity)) {
        this.take(ref, source, source, velocity);
      }
    }
  }

  /** The first microphone among the zones of a group that answer a velocity; −1 for none. */
  private micOf(key: number, velocity: number, from: number, to: number): number {
    for (let n = from; n < to; n++) {
      const ref = this.table.at(key, n);
      if (ref.mic >= 0 && this.sounds(ref) && answers(ref.zone, velocity)) return ref.mic;
    }
    return -1;
  }

  private lead(g: number, mic: number, pick: number): void {
    this.ledMic = mic;
    this.ledLayer = this.table.layerOf[g] as number;
    this.ledRepeat = this.candidateRepeat[pick] as number;
    this.ledKey = this.candidateKey[pick] as number;
  }

  /** Microphones of one stroke that stand in several groups of a layer are of the same repeat: the candidate that the first of them got; −1 where it is free. */
  private ledPick(g: number, mic: number): number {
    if (mic < 0 || this.ledMic < 0 || this.ledMic === mic || this.ledLayer !== this.table.layerOf[g]) return -1;
    for (let c = 0; c < this.candidates; c++)
      if (this.candidateRepeat[c] === this.ledRepeat && this.candidateKey[c] === this.ledKey) return c;
    return -1;
  }

  /** Whether a zone can sound and is to be heard. */
  private sounds(ref: ZoneRef): boolean {
    return isReady(ref) && !this.mutes.of(ref);
  }

  private take(ref: ZoneRef, key: number, source: number, velocity: number): void {
    const { zone } = ref;
    const weight =
      fadeWeight(velocity, zone.velLow, zone.velHigh, zone.velFadeLow, zone.velFadeHigh) *
      fadeWeight(key, zone.keyLow, zone.keyHigh, zone.keyFadeLow, zone.keyFadeHigh);
    if (weight < SILENT) {
      this.pass(ref, REASON.faded);
      return;
    }
    if (this.count === MOST_CHOSEN) {
      this.pass(ref, REASON.crowded);
      return;
    }
    this.chosen[this.count] = ref;
    this.weights[this.count] = weight;
    this.keys[this.count] = source;
    this.count++;
  }

  /** The repeats of some zones of a key that answer a velocity, in rising order. */
  private collect(key: number, velocity: number, from: number, to: number): void {
    const start = this.candidates;
    for (let n = from; n < to; n++) {
      const ref = this.table.at(key, n);
      const { zone } = ref;
      if (!this.sounds(ref) || !answers(zone, velocity) || this.candidates === MOST_CANDIDATES) continue;
      let at = start;
      while (at < this.candidates && (this.candidateRepeat[at] as number) < zone.repeat) at++;
      if (at < this.candidates && this.candidateRepeat[at] === zone.repeat) continue;
      this.candidateRepeat.copyWithin(at + 1, at, this.candidates);
      this.candidateKey.copyWithin(at + 1, at, this.candidates);
      this.candidateRepeat[at] = zone.repeat;
      this.candidateKey[at] = key;
      this.candidates++;
    }
  }

  /** Adds the repeats of a neighbouring key, as far as they are other zones than the key's own. */
  private borrowFrom(g: number, key: number, neighbour: number, velocity: number): void {
    if (neighbour < 0 || neighbour > 127) return;
    const { table } = this;
    const count = table.countAt(neighbour);
    for (let n = 0; n < count; n++) {
      const ref = table.at(neighbour, n);
      const { group, zone } = ref;
      if (group !== g || !this.sounds(ref) || !answers(zone, velocity) || this.candidates === MOST_CANDIDATES) continue;
      if (key >= zone.keyLow && key <= zone.keyHigh) continue;
      let known = false;
      for (let c = 0; c < this.candidates; c++) {
        if (this.candidateRepeat[c] !== zone.repeat || this.candidateKey[c] === key) continue;
        // The same zone reaches over several keys: it counts once.
        const other = this.candidateKey[c] as number;
        if (other === neighbour || (other >= zone.keyLow && other <= zone.keyHigh)) known = true;
      }
      if (known) continue;
      this.candidateRepeat[this.candidates] = zone.repeat;
      this.candidateKey[this.candidates] = neighbour;
      this.candidates++;
    }
  }

  /** Whose turn it is: the candidate's number, or −1 when there is none; `led` where another group has decided it (−1: none has). Each key of a group counts for itself. */
  private pick(group: GroupPlan, counter: number, led: number, random: Random): number {
    const { candidates, lasts } = this;
    if (candidates === 0) return -1;
    const mode = this.param(group, "roundRobin");
    const turn = this.counters[counter] as number;
    if (mode === ORDER || led >= 0) this.counters[counter] = turn + 1;
    if (led >= 0) {
      lasts[counter] = led;
      return led;
    }
    if (mode === ORDER) return turn % candidates;
    let pick = Math.floor(random() * candidates);
    const last = lasts[counter] as number;
    if (mode === FRESH_RANDOM && candidates > 1 && last >= 0 && last < candidates) {
      pick = Math.floor(random() * (candidates - 1));
      if (pick >= last) pick++;
    }
    lasts[counter] = pick;
    return pick;
  }

  reset(): void {
    this.counters.fill(0);
    this.lasts.fill(-1);
    this.down.fill(0);
    this.latched = -1;
  }
}

const answers = (zone: Zone, velocity: number): boolean => velocity >= zone.velLow && velocity < zone.velHigh + 1;

/** Whether a zone can sound: its sample is there, or it needs none. */
const isReady = ({ computed, path }: ZoneRef): boolean => computed || path !== null;
