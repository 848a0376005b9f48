import { hertzOf } from "../core/audio";
import { addPartial } from "./partial";
import { RATE, Room } from "./room";

/** The notes that the wheel's eight spokes are tuned near. */
export const SPOKE_NOTES = [50, 53, 55, 58, 62, 65, 69, 72] as const;

/** One pluck as it happened: where its attack is (frames), what was meant, and how it really sounds. */
export interface Pluck {
  readonly onset: number;
  readonly note: number;
  readonly cents: number;
  readonly strength: "soft" | "hard";
  readonly repeat: number;
}

interface Stroke {
  frequency: number;
  hard: boolean;
  seconds: number;
}

/**
 * A plucked steel spoke: a stiff string's partials (Fletcher, 1964: f(k) = k·f·√(1 + B·k²)), weighted by where it was
 * plucked, each dying away at its own rate, with a fingernail's click.
 */
export function pluck(room: Room, { frequency, hard, seconds }: Stroke): Float32Array {
  const out = new Float32Array(Math.round(seconds * RATE));
  const stiffness = 4e-5;
  const place = room.between(0.17, 0.23);
  const tilt = (hard ? 1.05 : 1.75) + room.between(-0.08, 0.08);
  const level = (hard ? 0.42 : 0.11) * room.between(0.9, 1.1);
  for (let k = 1; k <= 40; k++) {
    const f = k * frequency * Math.sqrt(1 + stiffness * k * k);
    if (f > 16000) break;
    const weight = (Math.abs(Math.sin(Math.PI * k * place)) / k ** tilt) * room.between(0.85, 1.15) * level;
    addPartial(out, {
      frequency: f,
      level: weight,
      phase: room.between(0, 2 * Math.PI),
      decay: 1.9 + 0.35 * k + frequency / 220,
      rise: 30,
    });
  }
  for (let i = 0; i < 0.012 * RATE; i++) {
    out[i] =
      (out[i] ?? 0) + (room.random() * 2 - 1) * level * 0.35 * Math.exp(-i / (0.0025 * RATE)) * Math.min(1, i / 8);
  }
  const last = out.length;
  const fade = Math.round(0.15 * RATE);
  for (let i = 0; i < fade; i++) out[last - 1 - i] = (out[last - 1 - i] ?? 0) * (i / fade);
  return out;
}

/** A long take: eight spokes, soft and hard, three times each, with bumps and false starts between them. */
export function recordSpokes(seed = 71): { samples: Float32Array<ArrayBuffer>; plucks: Pluck[] } {
  const room = new Room(240, seed);
  const plucks: Pluck[] = [];
  room.wait(1.1);
  for (const note of SPOKE_NOTES) {
    const cents = room.between(-30, 30);
    for (const strength of ["soft", "hard"] as const) {
      for (let repeat = 1; repeat <= 3; repeat++) {
        if (room.random() < 0.1) {
          room.bump();
          room.wait(room.between(0.5, 0.9));
        }
        if (room.random() < 0.08) {
          const slip = pluck(room, { frequency: hertzOf(note) * 1.01, hard: false, seconds: 0.3 });
          for (let i = 0; i < slip.length; i++) slip[i] = (slip[i] ?? 0) * 0.3 * Math.exp(-i / (0.006 * RATE));
          room.add(slip);
          room.wait(room.between(0.5, 0.8));
        }
        const drift = cents + room.between(-2, 2);
        const seconds = room.between(1.7, 2.2) * (note > 60 ? 0.8 : 1);
        room.add(pluck(room, { frequency: hertzOf(note + drift / 100), hard: strength === "hard", seconds }));
        plucks.push({ onset: room.at, note, cents: drift, strength, repeat });
        room.wait(seconds + room.between(0.15, 0.8));
      }
    }
  }
  room.wait(0.6);
  return { samples: room.finish(), plucks };
}
