import { number, sendLevel, time } from "../number";
import type { UnitSpec } from "../unit";

const key = <I extends string>(id: I, label: string, value: number, help: string) =>
  number({ id, label, unit: "note", min: 0, max: 127, default: value, help });
const midi = <I extends string>(id: I, label: string, value: number, help: string) =>
  number({ id, label, unit: "count", min: 0, max: 127, default: value, help });
const send = <I extends string>(id: I, n: number) =>
  sendLevel(id, n, `How much of the group goes to send ${n} besides what the layer sends, before the layer's inserts.`);

/** Settings that the zones of a group share: level, repeats, and when they sound at all. */
export const group = {
  kind: "group",
  role: "group",
  label: "Group",
  help: "What its zones share: level, repeats, and when they sound.",
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
      help: "Place of the group's zones.",
    }),
    number({
      id: "tune",
      label: "Tuning",
      unit: "cents",
      min: -1200,
      max: 1200,
      default: 0,
      mod: "linear",
      help: "Moves the pitch of the group's zones.",
    }),
    {
      type: "choice",
      id: "repeats",
      label: "Repeats",
      choices: [
        { id: "order", label: "In order" },
        { id: "random", label: "Random" },
        { id: "fresh", label: "Random, never twice" },
      ],
      default: "order",
      help: "Which of the round robins comes next.",
    },
    number({
      id: "borrow",
      label: "Borrow within",
      unit: "semitones",
      min: 0,
      max: 12,
      default: 0,
      help: "Takes repeats from keys so far away, transposed, so that there are more of them.",
    }),
    {
      type: "choice",
      id: "trigger",
      label: "Sounds on",
      choices: [
        { id: "press", label: "Key down" },
        { id: "release", label: "Key up" },
        { id: "first", label: "First of a phrase" },
        { id: "legato", label: "Other key held" },
      ],
      default: "press",
      help: "On every key down; when the note is let go; only when no other key is held; only when one is.",
    },
    number({
      id: "fall",
      label: "Fall while held",
      unit: "decibels",
      min: 0,
      max: 60,
      default: 0,
      help: "How much softer a key-up sound is for each second that the note was held.",
    }),
    number({
      id: "chance",
      label: "Chance",
      unit: "percent",
      min: 0,
      max: 1,
      default: 1,
      mod: "linear",
      help: "How often it sounds at all.",
    }),
    {
      type: "choice",
      id: "switch",
      label: "Keyswitch",
      choices: [
        { id: "none", label: "None" },
        { id: "held", label: "While held" },
        { id: "latched", label: "Last pressed" },
      ],
      default: "none",
      help: "A key that lets the group sound: while it is held, or once it was the last switch pressed.",
    },
    key("switchKey", "Switch key", 24, "Which key that is."),
    number({
      id: "controller",
      label: "Controller",
      unit: "controller",
      min: -1,
      max: 127,
      default: -1,
      help: "Sounds only while this controller stands in the range below.",
    }),
    midi("controllerLow", "From", 0, "Lowest value of the controller."),
    midi("controllerHigh", "To", 127, "Highest value of the controller."),
    number({
      id: "choke",
      label: "Choke group",
      unit: "optional",
      min: 0,
      max: 32,
      default: 0,
      help: "A new note silences the others of the same number, as a closed hi-hat does an open one.",
    }),
    time("chokeFade", "Choke fade", 0.01, 2, "How fast it silences them."),
    number({
      id: "voices",
      label: "Voices",
      unit: "optional",
      min: 0,
      max: 512,
      default: 0,
      help: "How many voices of this group there may be at once; none: as many as the instrument allows.",
    }),
    send("send1", 1),
    send("send2", 2),
    send("send3", 3),
    send("send4", 4),
  ],
} as const satisfies UnitSpec;
