import { CONTROL } from "../dsp";
import type { NotePlayer } from "./note-player";
import type { LayerPlan, Plan } from "./plan";
import type { SharedParts } from "./shared-parts";
import type { StageTuner } from "./stage-tuner";
import type { Voice, ZoneRef } from "./voice";
import { MOST_LAYERS, ORPHANS, type VoicePool } from "./voice-pool";
import type { VoiceTuner } from "./voice-tuner";

const sameStages = (a: LayerPlan | undefined, b: LayerPlan | undefined): boolean =>
  a?.stages.length === b?.stages.length && (a?.stages ?? []).every((stage, i) => stage.id === b?.stages[i]?.id);

/** Keeps held notes sounding while the instrument changes under them: in place, or by another voice that takes over. */
export class HandOver {
  private readonly list = new Int32Array(1);
  /** What each layer's voices have as filters. */
  private readonly chains = new Float64Array(MOST_LAYERS);

  private readonly pool: VoicePool;

  constructor(
    private readonly shared: SharedParts,
    private readonly tuner: VoiceTuner,
    private readonly stages: StageTuner,
    private readonly player: NotePlayer,
  ) {
    this.pool = shared.pool;
  }

  /** Lets voices go on in a new plan, by their zones' ids; those whose zone is gone fade out. */
  moveVoices(plan: Plan, before: Plan | null, frame: number): void {
    this.keepChains(plan, before);
    const places = new Map(plan.layers.map((layer, l) => [layer.id, l]));
    // Those that begin meanwhile, to take over from others, are as they should be.
    this.pool.listVoices();
    for (const v of this.pool.order.slice(0, this.pool.active)) {
      const voice = this.pool.voices[v] as Voice;
      const old = voice.ref;
      if (!old || voice.layer === ORPHANS) continue;
      const from = before?.layers[voice.layer];
      const place = places.get(from?.id ?? "");
      const same = place !== undefined && sameStages(from, plan.layers[place]);
      const next = this.shared.table.byId.get(old.zone.id);
      if (voice.leaving && same) {
        // It dies away where it is; what its zone has become no longer matters to it.
        voice.layer = place;
        if (next?.layer === place) voice.ref = next;
      } else if (voice.leaving || !next?.path || next.zone.sample !== old.zone.sample) this.leave(voice);
      else if (!same || next.layer !== place || next.path !== voice.path) this.pass(plan, voice, next, frame);
      else {
        const pitch = this.player.pitchOf(voice.key);
        voice.layer = place;
        voice.ref = next;
        this.player.setOwn(voice.index, next, pitch ?? voice.key, this.pool.numbers.extra[voice.index] as number);
      }
    }
    this.pool.changed = true;
  }

  /** Lets voices go on by the paths that their zones have got meanwhile. */
  followPaths(plan: Plan, frame: number): void {
    this.pool.listVoices();
    for (const v of this.pool.order.slice(0, this.pool.active)) {
      const voice = this.pool.voices[v] as Voice;
      const { ref } = voice;
      if (voice.leaving || voice.layer === ORPHANS || !ref?.path || ref.path === voice.path) continue;
      this.pass(plan, voice, ref, frame);
    }
    this.pool.changed = true;
  }

  /** Layers whose stages are the same ones keep what is known of their filters, wherever they stand now. */
  private keepChains(plan: Plan, before: Plan | null): void {
    const known = this.chains.slice();
    plan.layers.forEach((layer, l) => {
      if (l >= MOST_LAYERS) return;
      const from = before?.layers.findIndex((old) => old.id === layer.id) ?? -1;
      const kept = from >= 0 && sameStages(before?.layers[from], layer) ? known[from] : undefined;
      this.chains[l] = kept ?? this.stages.chainOf(layer);
    });
  }

  /** Lets a voice fade out as what it was, whatever its layer has become. */
  private leave(voice: Voice): void {
    this.pool.giveUp(voice);
    voice.frozen = true;
    voice.layer = ORPHANS;
    voice.serial = 0;
    this.stages.freeze(voice);
    this.pool.changed = true;
  }

  /** Lets another voice go on with a sound, from the same place and in the same state, while this one fades out: both read alike, so nothing is heard of it. */
  private pass(plan: Plan, voice: Voice, ref: ZoneRef, now: number): void {
    const { pool } = this;
    const { heap } = this.shared;
    const layer = plan.layers[ref.layer];
    const { serial, key, velocity, channel, released, oneShot, born } = voice;
    const frame = voice.path?.frameAt(voice.spanOf(heap), voice.positionOf(heap)) ?? 0;
    // First of all: a voice beside one that fades out with an older filter would have that filter too.
    this.leave(voice);
    const next = layer && ref.path ? pool.free(ref.layer) : null;
    if (!layer || !ref.path || !next) return;
    const { path } = ref;
    const first = path.frameAt(path.first, path.start);
    const into = Math.max(0, (frame - first) * path.direction);
    const position = path.start + path.direction * Math.min(into, 2 ** 30);
    const [v, n] = [voice.index, next.index];
    const { numbers } = pool;
    next.ref = ref;
    next.layer = ref.layer;
    next.serial = serial;
    next.key = key;
    next.velocity = velocity;
    next.channel = channel;
    next.released = released;
    next.oneShot = oneShot;
    next.born = born;
    next.leaving = false;
    next.frozen = false;
    next.active = true;
    numbers.copy(v, n);
    numbers.forgetRamps(n);
    this.shared.modulation.copy(v, n);
    this.player.setOwn(n, ref, this.player.pitchOf(key) ?? key, numbers.extra[n] as number);
    this.stages.begin(next, layer, !(pool.voices[n ^ 1] as Voice).active);
    next.begin(heap, path, position, this.shared.buses[ref.layer] ?? this.shared.bus);
    // The part of a frame goes along, so that both read alike.
    next.copyFraction(heap, voice);
    if (released) next.leaveLoop(heap);
    numbers.fade[n] = 0;
    const { list } = this;
    list[0] = n;
    this.tuner.tune(plan, layer, list, 1, 0);
    this.shared.kernels.beginVoice(next.pair, next.side);
    next.setGain(heap, 0, 0);
    // Both fades begin with the next control step; at such a step's own frame that is still to come.
    const left = (CONTROL - (now % CONTROL)) % CONTROL;
    if (left > 0) this.tuner.lead(plan, layer, list, left);
    pool.fadeIn(next);
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
        if (!voice.active || voice.layer !== l || !voice.ref) continue;
        if (voice.leaving) this.leave(voice);
        else this.pass(plan, voice, voice.ref, frame);
      }
    }
  }
}
