/** What people call things, and the words in their names that are meant by it. The first letters are enough on either side. */
const EVERYDAY: Readonly<Record<string, readonly string[]>> = {
  volume: ["level", "gain", "mix"],
  loudness: ["level", "gain"],
  louder: ["level", "gain"],
  pitch: ["transpose", "fine", "tuning", "tune", "detune", "bend", "glide", "a4"],
  tune: ["tuning", "transpose", "fine"],
  vibrato: ["transpose", "fine", "tuning", "lfo"],
  tremolo: ["level", "lfo"],
  brightness: ["cutoff", "damping", "tone"],
  bright: ["cutoff", "damping", "tone"],
  tone: ["cutoff", "filter", "equaliser"],
  wah: ["cutoff"],
  echo: ["delay"],
  room: ["reverb", "convolution", "size"],
  hall: ["reverb", "convolution", "size"],
  space: ["reverb", "convolution", "width"],
  wet: ["mix", "amount"],
  dry: ["mix", "amount"],
  stereo: ["pan", "width", "spread"],
  position: ["pan"],
  balance: ["pan", "mix"],
  fade: ["attack", "release"],
  swell: ["attack"],
  hiss: ["noise"],
  wind: ["noise"],
  breath: ["noise"],
  organ: ["additive", "partials"],
  bell: ["resonator", "additive", "ring"],
  body: ["resonator"],
  metal: ["resonator"],
  strings: ["comb", "resonator"],
  pipe: ["comb"],
  drum: ["drum", "strike"],
  knock: ["strike"],
  telephone: ["filter", "equaliser"],
  speak: ["formant"],
  voice: ["formant", "voices"],
  octave: ["transpose"],
  semitones: ["transpose"],
  cents: ["fine", "detune"],
  thick: ["unison", "detune", "chorus"],
  punch: ["hold", "transient"],
  click: ["attack", "transient"],
  lofi: ["crusher", "bits"],
  tail: ["release", "decay"],
  length: ["decay", "release", "hold"],
  distortion: ["drive", "shaper"],
  fuzz: ["drive", "shaper"],
  speed: ["rate"],
  tempo: ["rate", "sync"],
  portamento: ["glide"],
  portato: ["glide"],
  slide: ["glide", "timbre"],
  strength: ["velocity"],
  dynamics: ["velocity", "level"],
  polyphony: ["voices"],
  mute: ["mute", "on"],
  q: ["resonance"],
  emphasis: ["resonance"],
};

/** Whether a name is found by what somebody types: each word stands in it, or something that is meant by that word in everyday speech does. */
export function foundBy(name: string, typed: string): boolean {
  const text = name.toLowerCase();
  return typed
    .toLowerCase()
    .split(/\s+/)
    .filter(Boolean)
    .every((word) => text.includes(word) || meant(word).some((other) => hasWord(text, other)));
}

/** What is meant by a word of which at least three letters have been typed. */
function meant(word: string): readonly string[] {
  const own = EVERYDAY[word];
  if (own) return own;
  if (word.length < 3) return [];
  return Object.entries(EVERYDAY).flatMap(([said, names]) => (said.startsWith(word) ? names : []));
}

const hasWord = (text: string, word: string): boolean => text.split(/[^\p{L}\p{N}]+/u).some((w) => w.startsWith(word));
