import { CONTROL, type Kernels } from "../dsp";
import type { Heap } from "./heap";
import type { Modulation } from "./modulation";
import type { NotePlayer } from "./note-player";
import type { LayerPlan, Plan } from "./plan";
import type { StageTuner } from "./stage-tuner";
import type { Voice, ZoneRef } from "./voice";
import { MOST_LAYERS, type VoicePool } from "./voice-pool";
import type { VoiceTuner } from "./voice-tuner";
import type { ZoneTable } from "./zone-table";

/** Keeps held notes sounding while the instrument changes under them: in place, or by another voice that takes over. */
export class HandOver {
  private readonly list = new Int32Array(1);
  private readonly chains = new Float64Array(MOST_LAYERS).fill(-1);

  constructor(
    private readonly heap: Heap,
    private readonly kernels: Kernels,
    private readonly pool: VoicePool,
    private readonly table: ZoneTable,
    private readonly modulation: Modulation,
    private readonly tuner: VoiceTuner,
    private readonly stages: StageTuner,
    private readonly player: NotePlayer,
  ) {}

  /** Lets voices go on in a new plan, by their zones' ids; those whose zone is gone fade out. */
  moveVoices(plan: Plan, before: Plan | null, frame: number): void {
    const after = new Map(this.table.refs.map((ref) => [ref.zone.id, ref]));
    // Those that begin meanwhile, to take over from others, are as they should be.
    this.pool.listVoices();
    for (const v of this.pool.order.slice(0, this.pool.active)) {
      const voice = this.pool.voices[v] as Voice;
      if (!voice.ref) continue;
      const old = voice.ref;
      const next = after.get(old.zone.id);
      const stages = (p: Plan | null, layer: number): string => p?.layers[layer]?.stages.map((s) => s.id).join() ?? "";
      if (!next?.path || next.zone.sample !== old.zone.sample) {
        // It fades out as what it was; a layer that is gone can't say how, so it ends.
        if (voice.layer < plan.layers.length && plan.layers[voice.layer]?.id === before?.layers[voice.layer]?.id) {
          this.pool.giveUp(voice);
          voice.frozen = true;
          this.stages.freeze(voice);
          this.pool.numbers.group[voice.index] = -1;
          this.pool.numbers.mic[voice.index] = -1;
        } else voice.end(this.heap);
        continue;
      }
      const moved = next.layer !== voice.layer || stages(before, voice.layer) !== stages(plan, next.layer);
      if (moved || next.path !== voice.path) this.pass(plan, voice, next, frame);
      else {
        const pitch = this.player.pitchOf(voice.key);
        voice.ref = next;
        this.player.setOwn(voice.index, next, pitch ?? voice.key, this.pool.numbers.extra[voice.index] as number);
      }
    }
    this.pool.changed = true;
  }

  /** Lets another voice go on with a sound, from the same place and in the same state, while this one fades out: both read alike, so nothing is heard of it. */
  private pass(plan: Plan, voice: Voice, ref: ZoneRef, now: number): void {
    const { pool, heap } = this;
    const layer = plan.layers[ref.layer];
    if (!layer || !ref.path || voice.leaving || voice.born === now) return;
    const frame = voice.path?.frameAt(voice.spanOf(heap), voice.positionOf(heap)) ?? 0;
    const next = pool.free(ref.layer);
    if (!next) {
      voice.end(heap);
      return;
    }
    const { path } = ref;
    const first = path.frameAt(path.first, path.start);
    const into = Math.max(0, (frame - first) * path.direction);
    const position = path.start + path.direction * Math.min(into, 2 ** 30);
    const [v, n] = [voice.index, next.index];
    const { numbers } = pool;
    const { serial, key, velocity, channel, released, oneShot, born } = voice;
    Object.assign(next, { ref, layer: ref.layer, serial, key, velocity, channel, released, oneShot, born });
    pool.changed = true;
    next.leaving = false;
    next.frozen = false;
    next.active = true;
    numbers.copy(v, n);
    numbers.forgetRamps(n);
    this.modulation.copy(v, n);
    this.player.setOwn(n, ref, this.player.pitchOf(key) ?? key, numbers.extra[n] as number);
    this.stages.begin(next, layer, !(pool.voices[n ^ 1] as Voice).active);
    next.begin(heap, path, position, this.player.bus);
    if (released) next.leaveLoop(heap);
    numbers.fade[n] = 0;
    const { list } = this;
    list[0] = n;
    this.tuner.tune(plan, layer, list, 1, 0);
    this.kernels.beginVoice(next.pair, next.side);
    next.setGain(heap, 0, 0);
    // Both fades begin with the next control step; at such a step's own frame that is still to come.
    const left = (CONTROL - (now % CONTROL)) % CONTROL;
    if (left > 0) this.tuner.lead(plan, layer, list, left);
    pool.fadeIn(next);
    // What fades out keeps its sound but no longer what the new plan says of its zone.
    voice.ref = ref;
    voice.layer = ref.layer;
    voice.frozen = true;
    this.stages.freeze(voice);
    voice.serial = 0;
    pool.giveUp(voice);
  }

  /** A filter that has become of another character can't take over the state of the one before: its layer's voices are handed over. */
  changeChains(plan: Plan, frame: number): void {
    for (let l = 0; l < plan.layers.length && l < MOST_LAYERS; l++) {
      const chain = this.stages.chainOf(plan.layers[l] as LayerPlan);
      if (chain === this.chains[l]) continue;
      this.chains[l] = chain;
      const { pool } = this;
      for (let i = 0; i < pool.active; i++) {
        const voice = pool.voices[pool.order[i] as number] as Voice;
        if (voice.active && voice.layer === l && voice.ref) this.pass(plan, voice, voice.ref, frame);
      }
    }
  }
}
