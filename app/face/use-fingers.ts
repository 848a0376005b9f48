import { useEffect, useState } from "react";
import type { EngineHost } from "../audio/engine-host";

/** Notes that fingers hold on something that plays, each finger one: a finger that comes from elsewhere lets its old note go. */
export class Fingers {
  private readonly held = new Map<number, number>();

  constructor(private readonly host: Pick<EngineHost, "noteOn" | "noteOff">) {}

  /** The key that a finger holds. */
  keyOf(finger: number): number | undefined {
    return this.held.get(finger);
  }

  press(finger: number, key: number, velocity: number): void {
    if (this.held.get(finger) === key) return;
    this.lift(finger);
    this.held.set(finger, key);
    this.host.noteOn(key, velocity);
  }

  lift(finger: number): void {
    const key = this.held.get(finger);
    this.held.delete(finger);
    // Another finger may hold the same key.
    if (key !== undefined && ![...this.held.values()].includes(key)) this.host.noteOff(key);
  }

  liftAll(): void {
    for (const finger of [...this.held.keys()]) this.lift(finger);
  }
}

/** Fingers on something that is drawn: what goes away while it is held lets its notes go. */
export function useFingers(host: EngineHost): Fingers {
  const [fingers] = useState(() => new Fingers(host));
  useEffect(() => () => fingers.liftAll(), [fingers]);
  return fingers;
}
