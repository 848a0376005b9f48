import type { Audio, Hertz } from "../audio";
import { Convolver, type Kernels, Reverb } from "../dsp";
import type { Plan } from "./plan";

/** The effects round the whole instrument, as the plan has them: the computed room, then the recorded one. */
export class EffectChain {
  private readonly reverb: Reverb;
  private readonly convolver: Convolver;
  private readonly impulses = new Map<string, Audio>();
  private plan: Plan | null = null;
  private loaded: string | null = null;
  /** Whether the computed room has sounded and not yet died away, and whether the recorded one is on its way out. */
  private ringing = false;
  private leaving = false;

  constructor(
    private readonly rate: Hertz,
    kernels: Kernels,
  ) {
    this.reverb = new Reverb(rate);
    this.convolver = new Convolver(rate, kernels);
  }

  /** Takes a plan; an impulse that it no longer names falls silent. */
  setPlan(plan: Plan): void {
    this.plan = plan;
    const wanted = new Set(plan.impulses);
    for (const sha of this.impulses.keys()) if (!wanted.has(sha)) this.impulses.delete(sha);
    this.choose();
  }

  /** Takes the sound of an impulse, at the engine's rate. */
  addImpulse(sha: string, audio: Audio): void {
    if (audio.rate !== this.rate)
      throw new RangeError(`an impulse at ${audio.rate} Hz can't be used at ${this.rate} Hz`);
    // What isn't finite in it would never end.
    const finite = audio.channels.map((c) => c.map((x) => (Number.isFinite(x) ? x : 0)));
    this.impulses.set(sha, { ...audio, channels: finite });
    this.choose();
  }

  private choose(): void {
    const wanted = this.plan?.convolution?.sample ?? null;
    const there = wanted !== null && this.impulses.has(wanted) ? wanted : null;
    // A room that is taken away dies away first.
    this.leaving = there === null && this.loaded !== null;
    if (there === this.loaded || this.leaving) return;
    this.loaded = there;
    this.convolver.load(there === null ? null : (this.impulses.get(there) ?? null));
  }

  /** Sets the effects from the modulated values of the plan's slots. */
  tune(shared: Float64Array | Float32Array): void {
    const { reverb, convolution } = this.plan ?? {};
    if (reverb) {
      this.reverb.tune(
        shared[reverb.mix] as number,
        shared[reverb.size] as number,
        shared[reverb.decay] as number,
        shared[reverb.damping] as number,
      );
    }
    if (!reverb) this.reverb.fade();
    if (this.leaving) this.convolver.fade();
    else if (convolution) this.convolver.tune(shared[convolution.mix] as number, shared[convolution.delay] as number);
  }

  /** Adds the effects to the frames `[from, to)` of a stereo block. */
  process(left: Float32Array, right: Float32Array, from: number, to: number): void {
    if (this.plan?.reverb || this.ringing) {
      this.reverb.process(left, right, from, to);
      this.ringing = true;
      if (!this.plan?.reverb && this.reverb.quiet) {
        this.reverb.reset();
        this.ringing = false;
      }
    }
    if (this.loaded === null) return;
    this.convolver.process(left, right, from, to);
    if (!this.leaving || !this.convolver.quiet) return;
    this.convolver.load(null);
    this.loaded = null;
    this.leaving = false;
  }

  /** Makes an impulse ready at once, for rendering. */
  settle(): void {
    this.convolver.settle();
  }

  reset(): void {
    this.reverb.reset();
    if (this.loaded !== null) this.convolver.reset();
  }
}
