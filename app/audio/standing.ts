import type { ToEngine } from "./protocol";

/** Controllers of which only the moment counts: all sound off, reset, all notes off. */
const MOMENTARY = new Set([120, 121, 123]);

/** Of these the last one holds. */
const LASTING = new Set<string>(["tempo", "solo", "mute"] satisfies ToEngine["type"][]);

/** What hands, feet, the tempo and whoever listens have set and what stands until it is set anew: an engine that is begun anew is told all of it. */
export class Standing {
  private readonly lasting = new Map<string, ToEngine>();
  private readonly midi = new Map<string, Extract<ToEngine, { type: "midi" }>>();

  /** Whether it is told again by what stands. */
  holds = ({ type }: ToEngine): boolean => LASTING.has(type);

  /** Takes note of what is sent to the engine. */
  take(message: ToEngine): void {
    if (this.holds(message)) this.lasting.set(message.type, message);
    if (message.type !== "midi") return;
    const { status, data1 } = message;
    const kind = status & 0xf0;
    if (kind === 0xb0 && data1 === 121) {
      // Reset all controllers: nothing of this channel stands any more.
      for (const key of this.midi.keys()) if (key.startsWith(`${status & 15}/`)) this.midi.delete(key);
      return;
    }
    if (kind === 0xb0 && MOMENTARY.has(data1)) return;
    if (kind === 0xb0) this.midi.set(`${status & 15}/controller ${data1}`, message);
    else if (kind === 0xd0 || kind === 0xe0) this.midi.set(`${status & 15}/${kind}`, message);
  }

  /** Everything that stands, as an engine that knows of nothing is to be told it. */
  messages(): ToEngine[] {
    return [...this.lasting.values(), ...this.midi.values()];
  }
}
