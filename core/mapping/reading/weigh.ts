import { nameOfNote } from "../../audio";
import type { SampleRange } from "../../instrument";
import { plural } from "../../params";
import { overallDetune } from "../sort";
import { applyReading } from "./apply-reading";
import { partByName } from "./name-groups";
import type { NamedSound, NameReading, Reading } from "./reading";

/** A sound with what its file says of it. */
export interface EvidentSound extends NamedSound {
  /** The root that the file itself gives; null where it gives none. */
  readonly root: number | null;
  /** The keys and velocities that the file itself names; null or not given where it names none. */
  readonly range?: SampleRange | null;
}

/** What the evidence together says of a sound. */
export interface Weighed extends Omit<NameReading, "note"> {
  readonly note: number | null;
  /** What was believed; null where there is nothing to believe. */
  readonly from: "name" | "sound" | "file" | null;
  readonly called: number | null;
  /** MIDI note with fraction. */
  readonly heard: number | null;
  readonly written: number | null;
  /** The keys that its file names, where files part the keyboard among them; null where they don't. */
  readonly keys: { readonly low: number; readonly high: number } | null;
  /** What speaks against it, as a sentence; empty where nothing does. */
  readonly doubt: string;
}

const NEAR = 0.6;
/** Share of the sounds that are as their names say from which the names of the others are believed. */
const TRUSTED = 0.5;

/** Roots that files give say nothing where all give the same, although they sound or are called differently. */
function rootsMean(sounds: readonly EvidentSound[], called: readonly (number | null)[]): boolean {
  const roots = new Set(sounds.flatMap((s) => (s.root === null ? [] : [s.root])));
  if (roots.size !== 1) return roots.size > 1;
  const others = new Set(sounds.map((s, n) => called[n] ?? (s.pitch === null ? null : Math.round(s.pitch))));
  return others.size <= 1;
}

/** Whether what files say of some range parts them: several are named, each by all that have one. */
const parts = (texts: readonly string[]): boolean => new Set(texts).size > 1;

/** Which strengths and keys files name, where they part sounds by them and the names say no strength. */
function rangesOf(sounds: readonly EvidentSound[], names: readonly NameReading[]) {
  const ranged = sounds.flatMap((s) => s.range ?? []);
  const silent = names.every((n) => n.strength === null && n.velocities === null);
  const byVelocity = silent && parts(ranged.map((r) => `${r.velLow}-${r.velHigh}`));
  const byKey = parts(ranged.map((r) => `${r.keyLow}-${r.keyHigh}`));
  const tops = [...new Set(ranged.map((r) => r.velHigh))].sort((a, b) => a - b);
  return (range: SampleRange | null | undefined) => ({
    ...(range && byVelocity
      ? { strength: tops.indexOf(range.velHigh) + 1, velocities: { low: range.velLow, high: range.velHigh } }
      : {}),
    keys: range && byKey ? { low: range.keyLow, high: range.keyHigh } : null,
  });
}

const agrees = (a: number | null, b: number | null): boolean => a !== null && b !== null && Math.abs(a - b) <= NEAR;

const text = (note: number): string => nameOfNote(Math.round(note));

interface Verdict {
  readonly note: number | null;
  readonly from: Weighed["from"];
  readonly doubt: string;
}

function judge(
  called: number | null,
  heard: number | null,
  written: number | null,
  trusted: boolean,
  named: boolean,
): Verdict {
  const ear = heard === null ? null : Math.min(127, Math.max(0, Math.round(heard)));
  if (called === null) {
    if (ear === null)
      return written === null
        ? { note: null, from: null, doubt: "neither its name nor its sound tells a note" }
        : { note: written, from: "file", doubt: named ? "its name has no note: the file’s own root was taken" : "" };
    const apart = written !== null && !agrees(written, heard);
    if (apart)
      return {
        note: ear,
        from: "sound",
        doubt: `its file says ${text(written)}, but it sounds ${text(ear)}: the sound was believed`,
      };
    return { note: ear, from: "sound", doubt: named ? `its name has no note: it was placed by its sound` : "" };
  }
  if (heard === null || ear === null) {
    if (written !== null && written !== called)
      return {
        note: called,
        from: "name",
        doubt: `it is called ${text(called)}, but its file says ${text(written)}: the name was believed`,
      };
    return {
      note: called,
      from: "name",
      doubt: trusted ? "" : "its pitch isn’t clear, and the other names seldom agree with the sound",
    };
  }
  if (agrees(called, heard)) return { note: called, from: "name", doubt: "" };
  const octaves = Math.abs(((Math.abs(called - heard) + 6) % 12) - 6) <= NEAR;
  const apart = octaves
    ? "whole octaves apart"
    : `${plural(Math.round(Math.abs(called - heard) * 10) / 10, "semitone")} apart`;
  const both = `it is called ${text(called)}, but sounds ${text(ear)}, ${apart}`;
  if (written !== null && agrees(written, heard) && !agrees(written, called))
    return { note: ear, from: "sound", doubt: `${both}, as its file says too: the sound was believed` };
  if (trusted) return { note: called, from: "name", doubt: `${both}: the name was believed` };
  return { note: ear, from: "sound", doubt: `${both}: the sound was believed, as most names don’t agree` };
}

/**
 * Weighs what names, files and sounds say. A name is believed where the sound agrees, or where most names of the set do; else the sound. What
 * disagrees is doubted, with both. A reading of null: names say nothing.
 */
export function weigh(sounds: readonly EvidentSound[], reading: Reading | null): Weighed[] {
  const applied = reading ? applyReading(reading, sounds) : { names: sounds.map(() => SAYS_NOTHING), pieces: [] };
  const names = partByName(
    sounds.map((s) => s.path),
    applied.names,
    applied.pieces,
    applied.names.map(({ note }, n) => note ?? (sounds[n]?.pitch == null ? null : Math.round(sounds[n].pitch))),
  );
  const hasNotes = reading?.columns.note !== undefined;
  const withoutOctave = reading?.columns.note?.manner === "class";
  const trusted = reading?.agreement === null || (reading?.agreement ?? 0) >= TRUSTED;
  const means = rootsMean(
    sounds,
    names.map((n) => n.note),
  );
  const ranges = rangesOf(sounds, names);
  // What is tuned alike is measured against its own tuning.
  const detune = overallDetune(sounds.flatMap((s) => s.pitch ?? [])) / 100;
  return sounds.map((sound, n) => {
    const name = names[n] ?? SAYS_NOTHING;
    const written = means ? sound.root : null;
    const verdict = judge(name.note, sound.pitch === null ? null : sound.pitch - detune, written, trusted, hasNotes);
    const doubt =
      withoutOctave && name.note !== null && sound.pitch === null && verdict.doubt === ""
        ? "its name has no octave, and its pitch isn’t clear"
        : verdict.doubt;
    return { ...name, ...ranges(sound.range), ...verdict, doubt, called: name.note, heard: sound.pitch, written };
  });
}

const SAYS_NOTHING: NameReading = {
  note: null,
  strength: null,
  velocities: null,
  repeat: null,
  microphone: null,
  trigger: null,
  group: null,
};
