import type { Plan } from "./plan";
import type { ZoneRef } from "./voice";

/**
 * What is muted while somebody works, and what is heard alone, by address: groups (`layers/<id>/groups/<id>`) and microphones (`mics/<id>`). Nothing of it is
 * in a plan: what isn't heard for now stays ready to sound.
 */
export class Mutes {
  private muted: ReadonlySet<string> = new Set();
  private alone: ReadonlySet<string> = new Set();
  /** 1 for each group and each microphone of the plan that isn't to be heard. */
  private groups = new Uint8Array(0);
  private mics = new Uint8Array(0);
  /** Whether some microphones are heard alone: what is of none isn't. */
  private ofMics = false;

  set(muted: readonly string[], alone: readonly string[]): void {
    this.muted = new Set(muted);
    this.alone = new Set(alone);
  }

  /** Finds out which groups and microphones of a plan are meant; what isn't there doesn't count. */
  setPlan({ layers, mics }: Pick<Plan, "layers" | "mics">): void {
    const groups = layers.flatMap((l) => l.groups.map((g) => `layers/${l.id}/groups/${g.id}`));
    const microphones = mics.map((m) => `mics/${m.id}`);
    this.groups = this.marks(groups);
    this.mics = this.marks(microphones);
    this.ofMics = microphones.some((a) => this.alone.has(a));
  }

  private marks(addresses: readonly string[]): Uint8Array<ArrayBuffer> {
    const some = addresses.some((a) => this.alone.has(a));
    return Uint8Array.from(addresses, (a) => (this.muted.has(a) || (some && !this.alone.has(a)) ? 1 : 0));
  }

  ofGroup(group: number): boolean {
    return this.groups[group] === 1;
  }

  of({ group, mic }: ZoneRef): boolean {
    return this.groups[group] === 1 || (mic < 0 ? this.ofMics : this.mics[mic] === 1);
  }
}
