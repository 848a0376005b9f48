import { CONTROL } from "../dsp";
import { SENDS } from "../instrument";
import { addBlock, copyBlock, type Overheard } from "./bus-frames";
import { Chain } from "./chain";
import { GroupBus } from "./group-bus";
import type { GroupPlan, LayerPlan } from "./plan";
import { SendLevels } from "./send-levels";
import { BLOCK, type SharedParts } from "./shared-parts";

/** In which a layer that is no longer to be heard goes silent. */
const FADE_SECONDS = 0.003;
/** The sum of a layer's voices: what it goes through, and how much of it goes to each send. */
export class LayerBus {
  /** Address of the two channels to which the layer's pairs are added. */
  readonly at: number;
  readonly inserts: Chain;
  private readonly sends = new SendLevels(SENDS);
  /** Sums of those groups that may go to sends by themselves, by their ids. */
  private readonly groups = new Map<string, GroupBus>();
  private groupList: readonly GroupBus[] = [];
  private groupsRouted = false;
  private readonly left = new Float32Array(BLOCK);
  private readonly right = new Float32Array(BLOCK);

  constructor(private readonly shared: SharedParts) {
    this.at = shared.allocateBus();
    this.inserts = new Chain(shared.rate, shared.kernels);
  }

  /** Takes the layer's groups, of which the first has the number `first` among all; none where there is no send. Allocates. */
  setGroups(groups: readonly GroupPlan[], first: number): void {
    for (const bus of this.groups.values()) {
      bus.group = null;
      bus.number = -1;
    }
    groups.forEach((group, i) => {
      const bus = this.groups.get(group.id) ?? new GroupBus(this.shared);
      bus.group = group;
      bus.number = first + i;
      if (bus.used) this.shared.ways[bus.number] = bus.at;
      this.groups.set(group.id, bus);
    });
    for (const [id, bus] of this.groups) {
      if (bus.group || bus.hasVoices()) continue;
      this.groups.delete(id);
      this.shared.freeBus(bus.at);
    }
    this.groupList = [...this.groups.values()];
    this.groupsRouted = groups.some((group) => group.sendsRouted);
  }

  /** Whether none of its groups has a sum of its own. */
  get plain(): boolean {
    for (let g = 0; g < this.groupList.length; g++) if ((this.groupList[g] as GroupBus).used) return false;
    return true;
  }

  /** Whether voices that are added to an address are heard by it. */
  takes(address: number): boolean {
    if (address === this.at) return true;
    for (let g = 0; g < this.groupList.length; g++) if ((this.groupList[g] as GroupBus).at === address) return true;
    return false;
  }

  /** Gives its memory back. */
  release(): void {
    this.shared.freeBus(this.at);
    for (const { at } of this.groups.values()) this.shared.freeBus(at);
  }

  /** How much of it is heard at all, where that is to be, and its step per frame. */
  private share = 1;
  private wanted = 1;
  private step = 0;

  /** What units listen to that name the layer: its sum behind its inserts, whether it is heard itself or not; null: none does. */
  overheard: Overheard | null = null;

  /** A test sound that goes through it, as voices would; null: none. */
  probe: Overheard | null = null;
  /** Where what is heard of it is copied to; null: nobody asked. */
  tap: Overheard | null = null;

  /** Whether it is one of those that are heard alone; null: nobody listens to some alone. */
  alone: boolean | null = null;

  /** Whether all of it is heard, and will be. */
  get whole(): boolean {
    return this.share === 1 && this.wanted === 1;
  }

  /** Nothing of it goes anywhere, nor will it before the next control step; what it goes through remembers nothing. */
  private get unheard(): boolean {
    if (this.share !== 0 || this.wanted !== 0 || this.overheard || this.probe || this.tap) return false;
    return this.plain && this.inserts.passed && !this.inserts.watched && !this.sends.sending;
  }

  private fade(layer: LayerPlan | null, first: boolean): void {
    const heard = this.alone ?? (layer !== null && (this.shared.modulation.shared[layer.mute] as number) < 0.5);
    if (layer) this.wanted = heard ? 1 : 0;
    if (first || Math.abs(this.wanted - this.share) < 1e-6) this.share = this.wanted;
    const most = CONTROL / (FADE_SECONDS * this.shared.rate);
    const gap = this.wanted - this.share;
    this.step = Math.max(-most, Math.min(most, gap)) / CONTROL;
  }

  /** Whether a control step in which no value has moved changes nothing of it. */
  atRest(layer: LayerPlan | null): boolean {
    if (layer === null || layer.sendsRouted || this.groupsRouted || !this.plain) return false;
    return this.inserts.atRest && this.sends.still && this.share === this.wanted;
  }

  /** Whether it makes a difference: if not, the layer's voices may as well be added to the whole at once. */
  get matters(): boolean {
    return (
      this.overheard !== null ||
      this.probe !== null ||
      this.tap !== null ||
      !this.whole ||
      this.sends.sending ||
      !this.plain ||
      this.inserts.watched ||
      !this.inserts.passed
    );
  }

  control(layer: LayerPlan | null, first: boolean): void {
    const { shared: values, tempo, moved } = this.shared.modulation;
    this.inserts.control(values, tempo, moved);
    this.fade(layer, first);
    this.sends.control(layer?.sends ?? null, layer?.sendsRouted ?? false, values, moved, first);
    for (let g = 0; g < this.groupList.length; g++) (this.groupList[g] as GroupBus).control(first);
  }

  /** Takes what its voices have added into the whole and into the sends, `to − from` frames; its bus is empty afterwards. */
  process(
    wholeLeft: Float32Array,
    wholeRight: Float32Array,
    sendsLeft: readonly Float32Array[],
    sendsRight: readonly Float32Array[],
    from: number,
    to: number,
  ): void {
    const { left, right } = this;
    const count = to - from;
    this.shared.takeBus(this.at, left, right, 0, count);
    if (this.unheard) return;
    for (let g = 0; g < this.groupList.length; g++) {
      const group = this.groupList[g] as GroupBus;
      if (group.used) group.process(left, right, sendsLeft, sendsRight, count, this.share, this.step);
    }
    const { probe } = this;
    if (probe) addBlock(left, right, probe, 0, count);
    this.inserts.process(left, right, 0, count, from);
    if (this.overheard) {
      this.rested = false;
      this.overheard.left.set(left);
      this.overheard.right.set(right);
    }
    if (!this.whole) this.lower(count);
    if (this.tap) copyBlock(left, right, this.tap, 0, count, from);
    for (let i = 0; i < count; i++) {
      wholeLeft[from + i] = (wholeLeft[from + i] as number) + (left[i] as number);
      wholeRight[from + i] = (wholeRight[from + i] as number) + (right[i] as number);
    }
    this.sends.add(left, right, sendsLeft, sendsRight, count);
  }

  /** Nothing was added to it: who listens hears nothing. */
  rest(): void {
    if (!this.overheard || this.rested) return;
    this.overheard.left.fill(0);
    this.overheard.right.fill(0);
    this.rested = true;
  }
  private rested = false;

  private lower(count: number): void {
    const { left, right, step } = this;
    let { share } = this;
    for (let i = 0; i < count; i++) {
      left[i] = (left[i] as number) * share;
      right[i] = (right[i] as number) * share;
      share += step;
    }
    this.share = share;
  }
}
