import { pitchFinderOf, SURE } from "../analysis";
import { type Audio, monoOf, type Note } from "../audio";
import { type FoundBeat, findBeat } from "./beat";
import type { LoopKind, LoopWish } from "./loop-candidate";
import type { LoopRegion } from "./region";

/** The pitch of what lies behind the attack; null where none is sure. */
export function pitchOf(audio: Audio, { from, to }: LoopRegion): Note | null {
  const { rate } = audio;
  const found = pitchFinderOf(rate).find(monoOf(audio), from, to);
  return found.note !== null && found.confidence >= SURE ? found.note : null;
}

/** What a sound is, and what is known of it. */
export interface Taken {
  readonly kind: LoopKind;
  readonly note: Note | null;
  readonly beat: Pick<FoundBeat, "tempo" | "downbeat" | "bar"> | null;
}

/** What to take a sound for, unless it is said: a beat where its attacks lie on one, a tone where a pitch is sure, else a texture. */
export function takenFor(audio: Audio, region: LoopRegion, wish: LoopWish, start: number, end: number): Taken {
  const note = wish.note ?? pitchOf(audio, region);
  const usual = note === null ? "texture" : "tone";
  if (wish.kind !== undefined && wish.kind !== "beat") return { kind: wish.kind, note, beat: wish.beat ?? null };
  const beat = wish.beat ?? findBeat(audio, start, end);
  if (!beat) return { kind: wish.kind === "beat" ? "texture" : usual, note, beat: null };
  const regular = "sure" in beat;
  // A struck tone may be struck several times; where its beat is only guessed, a sure pitch counts for more than few attacks.
  const kind = wish.kind === "beat" || !regular || note === null || isMany(beat as FoundBeat) ? "beat" : usual;
  return { kind, note, beat };
}

/** So many attacks make a beat even of what has a pitch. */
const isMany = ({ attacks, sure }: FoundBeat): boolean => attacks.length >= 8 && sure >= 0.85;
