/** Words that people write into the names of samples, in several languages, lower case and without accents. */

/** How hard something was struck, softest 0 and hardest 1: only the order counts, and that words of one meaning are equal. */
const STRENGTHS: readonly (readonly [number, string])[] = [
  [0.02, "pppp"],
  [0.06, "ppp"],
  [0.1, "verysoft vsoft softest ghost whisper min minimum lowest"],
  [0.14, "pp pianissimo"],
  [
    0.25,
    "p piano soft quiet gentle light weak low lo leise sanft weich schwach doux faible suave debil morbido tranquillo zacht svag blid",
  ],
  [0.38, "mp mezzopiano medsoft mediumsoft"],
  [0.5, "medium med mid middle mittel moyen medio normal norm mezzo mm halb"],
  [0.62, "mf mezzoforte medhard mediumhard"],
  [0.75, "f forte hard loud strong high hi heavy laut stark hart fest fort dur fuerte duro forti hoch"],
  [0.86, "ff fortissimo"],
  [0.9, "veryhard vhard hardest veryloud accent max maximum full highest"],
  [0.94, "fff"],
  [0.98, "ffff"],
];

const strengthWords = new Map(STRENGTHS.flatMap(([value, words]) => words.split(" ").map((w) => [w, value] as const)));

/** How hard, from 0 to 1; null where the word says nothing of it. */
export const strengthOfWord = (word: string): number | null => strengthWords.get(word) ?? null;

const setOf = (words: string): ReadonlySet<string> => new Set(words.split(" "));

/** Words that say what the number after them is. */
export const LABELS = {
  note: setOf("midi note key nn k n m pitch ton taste root hz freq nota"),
  strength: setOf(
    "v vel velo velocity vl vlayer layer lay lyr dyn dynamic level lvl str strength s st force power impact hardness starke anschlag intensity int loudness nuance",
  ),
  repeat: setOf(
    "rr r robin roundrobin round rep repeat repetition take tk t var variation variant alt x copy no nr num hit wdh wiederholung prise toma versuch again",
  ),
  octave: setOf("oct octave oktave okt ottava octava oitava"),
  microphone: setOf("mic mike mikro micro ch channel"),
  /** Numbers that say nothing of a sound's place. */
  nothing: setOf("bpm bit khz rev ver version session model modell mk date day ms sec seconds track trk"),
} as const;

const MICROPHONES: readonly (readonly [string, string])[] = [
  ["close", "close near spot nah pres proche cerca vicino nahmikro"],
  ["room", "room raum rm hall ambient ambience ambiance sala stanza salle kamer"],
  ["far", "far distant fern loin lejos lontano"],
  ["overhead", "overhead overheads oh"],
  ["direct", "di direct pickup piezo line"],
  ["contact", "contact"],
  ["left", "left links gauche izquierda"],
  ["right", "right rechts droite derecha"],
  ["front", "front vorn"],
  ["rear", "rear back hinten"],
  ["mono", "mono"],
  ["stereo", "stereo"],
];
const microphones = new Map(MICROPHONES.flatMap(([mic, words]) => words.split(" ").map((w) => [w, mic] as const)));

/** Which microphone a word names; null where none. */
export const microphoneOfWord = (word: string): string | null => microphones.get(word) ?? null;

const RELEASES = setOf("rel release releases rels noteoff off keyup up loslassen ausklang relache soltar rilascio");
const PRESSES = setOf("press attack on noteon keydown down sus sustain sustained hit pluck anschlag normal");

/** Whether a word says that a sound is played when a key is let go, or when it is pressed; null where it says neither. */
export const triggerOfWord = (word: string): "noteOn" | "noteOff" | null =>
  RELEASES.has(word) ? "noteOff" : PRESSES.has(word) ? "noteOn" : null;

const SOLFEGE: Readonly<Record<string, number>> = { do: 0, ut: 0, re: 2, mi: 4, fa: 5, sol: 7, la: 9, si: 11, ti: 11 };

/** Semitones above C of a syllable; null where it is none. */
export const solfegeOf = (word: string): number | null => SOLFEGE[word] ?? null;

/** A word without case and accents, as the lists above have it. */
export const plain = (word: string): string =>
  word.normalize("NFD").replace(/\p{M}/gu, "").replace(/ß/g, "ss").toLowerCase();
