import { number, sendLevel, time } from "../number";
import type { UnitSpec } from "../unit";

const key = <const I extends string>(id: I, label: string, value: number, help: string) =>
  number({ id, label, unit: "note", min: 0, max: 127, default: value, help });
const midi = <const I extends string>(id: I, label: string, value: number, help: string) =>
  number({ id, label, unit: "count", min: 0, max: 127, default: value, help });
const send = <const I extends string>(id: I, n: number) =>
  sendLevel(id, n, `How much of the group goes to send ${n} besides what the layer sends, before the layer's inserts.`);

/** Settings that the zones of a group share: level, repeats, and when they sound at all. */
export const group = {
  kind: "group",
  role: "group",
  label: "Group",
  help: "Settings that its zones share: level, round robin, trigger.",
  params: [
    number({
      id: "level",
      label: "Level",
      unit: "decibels",
      min: -60,
      max: 24,
      default: 0,
      mod: "linear",
      help: "Level of the group's zones.",
    }),
    number({
      id: "pan",
      label: "Pan",
      unit: "pan",
      min: -1,
      max: 1,
      default: 0,
      mod: "linear",
      help: "Pan of the group's zones.",
    }),
    number({
      id: "tuning",
      label: "Tuning",
      unit: "cents",
      min: -1200,
      max: 1200,
      default: 0,
      mod: "linear",
      help: "Tuning of the group's zones.",
    }),
    {
      type: "choice",
      id: "roundRobin",
      label: "Round robin",
      choices: [
        { id: "cycle", label: "Cycle" },
        { id: "random", label: "Random" },
        { id: "noRepeats", label: "Random, no repeats" },
      ],
      default: "cycle",
      help: "Order of the repeats.",
    },
    number({
      id: "borrow",
      label: "Borrow from neighbours",
      unit: "semitones",
      min: 0,
      max: 12,
      default: 0,
      help: "Range of keys from which repeats are borrowed, transposed.",
    }),
    {
      type: "choice",
      id: "trigger",
      label: "Trigger",
      choices: [
        { id: "noteOn", label: "Note on" },
        { id: "noteOff", label: "Note off" },
        { id: "firstNote", label: "First note" },
        { id: "legato", label: "Legato" },
      ],
      default: "noteOn",
      help: "Note on: every key down. Note off: key up. First note: no other key held. Legato: another key held.",
    },
    number({
      id: "releaseDecay",
      label: "Release decay",
      unit: "decibels",
      min: 0,
      max: 60,
      default: 0,
      help: "Level drop of note-off samples for each second that the note was held.",
    }),
    number({
      id: "probability",
      label: "Probability",
      unit: "percent",
      min: 0,
      max: 1,
      default: 1,
      mod: "linear",
      help: "Probability that the group sounds.",
    }),
    {
      type: "choice",
      id: "keyswitch",
      label: "Keyswitch",
      choices: [
        { id: "none", label: "None" },
        { id: "momentary", label: "Momentary" },
        { id: "latched", label: "Latched" },
      ],
      default: "none",
      help: "Keyswitch that selects the group: while held, or until another switch is pressed.",
    },
    key("switchKey", "Switch key", 24, "Key of the keyswitch."),
    number({
      id: "controller",
      label: "Controller",
      unit: "controller",
      min: -1,
      max: 127,
      default: -1,
      help: "Controller that must be within the range below.",
    }),
    midi("controllerLow", "Controller from", 0, "Lowest controller value."),
    midi("controllerHigh", "Controller to", 127, "Highest controller value."),
    number({
      id: "chokeGroup",
      label: "Choke group",
      unit: "optional",
      min: 0,
      max: 32,
      default: 0,
      help: "Groups of one number cut each other off, like closed and open hi-hat.",
    }),
    time("chokeFade", "Choke fade", 0.01, 2, "Fade of what is choked."),
    number({
      id: "voices",
      label: "Voices",
      unit: "optional",
      min: 0,
      max: 512,
      default: 0,
      help: "Voice limit of the group; none: the instrument's limit.",
    }),
    send("send1", 1),
    send("send2", 2),
    send("send3", 3),
    send("send4", 4),
  ],
} as const satisfies UnitSpec;
