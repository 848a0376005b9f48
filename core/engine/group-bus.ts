import { SENDS } from "../instrument";
import type { GroupPlan } from "./plan";
import { SendLevels } from "./send-levels";
import { BLOCK, type SharedParts } from "./shared-parts";

/** The sum of those of a layer's voices that are of one group, where the group goes to sends by itself: it is added to the layer's, before its inserts. */
export class GroupBus {
  /** Address of the two channels to which the group's pairs are added. */
  readonly at: number;
  /** The group as it is now, and its number among all; null: it is gone, or no send is there any more. */
  group: GroupPlan | null = null;
  number = -1;
  /** Whether its voices are added to it; until then they go to the layer's sum. */
  used = false;
  private readonly sends = new SendLevels(SENDS);
  private readonly left = new Float32Array(BLOCK);
  private readonly right = new Float32Array(BLOCK);

  constructor(private readonly shared: SharedParts) {
    this.at = shared.allocateBus();
  }

  control(first: boolean): void {
    const { shared: values, moved } = this.shared.modulation;
    const { group } = this;
    if (!this.used && group && SendLevels.wanted(group.sends, values)) {
      // Its voices come at the next control step; until then there is nothing to hear of them here.
      this.used = true;
      this.shared.lead(this.number, this.at);
      if (!first) return;
    }
    if (!this.used) return;
    this.sends.control(group?.sends ?? null, group?.sendsRouted ?? false, values, moved, first);
    if (this.sends.sending || this.hasVoices()) return;
    this.used = false;
    if (this.number >= 0) this.shared.lead(this.number, 0);
  }

  /** Whether some voice is still added to it. */
  hasVoices(): boolean {
    const { voices } = this.shared.pool;
    for (let v = 0; v < voices.length; v++) {
      const voice = voices[v];
      if (voice?.active && voice.way === this.at) return true;
    }
    return false;
  }

  /** Adds what its voices have put out to the layer's sum, and to the sends as much of it as of the layer is heard. */
  process(
    left: Float32Array,
    right: Float32Array,
    sendsLeft: readonly Float32Array[],
    sendsRight: readonly Float32Array[],
    count: number,
    share: number,
    step: number,
  ): void {
    this.shared.takeBus(this.at, this.left, this.right, 0, count);
    for (let i = 0; i < count; i++) {
      left[i] = (left[i] as number) + (this.left[i] as number);
      right[i] = (right[i] as number) + (this.right[i] as number);
    }
    this.sends.add(this.left, this.right, sendsLeft, sendsRight, count, share, step);
  }
}
