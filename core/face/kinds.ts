import { FACE_KINDS, type FaceItem, type FaceKind } from "../instrument";

/** What an item can move: numbers, choices, both, or nothing. */
export type Takes = "number" | "choice" | "any" | "nothing";

/** One form of a kind of item. */
interface Form {
  readonly id: string;
  readonly label: string;
}

/** A kind of item: what it is called, what it moves, how large it is at first, its forms. */
export interface FaceKindSpec {
  readonly label: string;
  readonly help: string;
  readonly takes: Takes;
  /** How many parameters it moves at the most. */
  readonly most: number;
  readonly size: readonly [width: number, height: number];
  /** The smallest that a finger meets, in pixels; none: it isn't touched. */
  readonly touched?: number;
  readonly forms?: readonly Form[];
}

/** Parameters that go along with the first at the most. */
const SEVERAL = 8;

/** What is played: by itself, or what it is bound to. */
const PLAYED: readonly Form[] = [
  { id: "bend", label: "Pitch bend" },
  { id: "wheel", label: "Modulation wheel" },
  { id: "bound", label: "What it is bound to" },
  { id: "back", label: "The same, springing back" },
];

const KINDS: Readonly<Record<FaceKind, FaceKindSpec>> = {
  dial: {
    label: "Dial",
    help: "Turned up and down; more that it moves goes along, each over its own range.",
    takes: "number",
    most: SEVERAL,
    size: [96, 124],
    touched: 40,
  },
  slider: {
    label: "Slider",
    help: "Moved along its length; more that it moves goes along, each over its own range.",
    takes: "number",
    most: SEVERAL,
    size: [56, 168],
    touched: 32,
    forms: [
      { id: "up", label: "Upright" },
      { id: "across", label: "Across" },
    ],
  },
  columns: {
    label: "Columns",
    help: "A row of levels, drawn across: one for each parameter, such as the levels of partials.",
    takes: "number",
    most: 256,
    size: [280, 150],
    touched: 40,
    forms: [
      { id: "bars", label: "Columns" },
      { id: "curve", label: "A curve through points" },
    ],
  },
  number: {
    label: "Number",
    help: "A value that is dragged or typed.",
    takes: "number",
    most: 1,
    size: [110, 52],
    touched: 28,
  },
  switch: {
    label: "Switch",
    help: "On or off: for switches, and for choices of two.",
    takes: "any",
    most: SEVERAL,
    size: [96, 60],
    touched: 28,
  },
  button: {
    label: "Button",
    help: "To its highest while it is held, or from press to press.",
    takes: "any",
    most: SEVERAL,
    size: [110, 44],
    touched: 32,
    forms: [
      { id: "held", label: "While it is held" },
      { id: "kept", label: "From press to press" },
    ],
  },
  choice: {
    label: "Choice",
    help: "One of several things.",
    takes: "choice",
    most: 1,
    size: [180, 60],
    touched: 28,
    forms: [
      { id: "list", label: "A list" },
      { id: "row", label: "Beside each other" },
      { id: "stack", label: "Below each other" },
    ],
  },
  stepper: {
    label: "Previous and next",
    help: "One of several things, by its name, with the ones before and after it.",
    takes: "any",
    most: 1,
    size: [200, 60],
    touched: 28,
  },
  xy: { label: "XY", help: "Two parameters by one point.", takes: "number", most: 2, size: [180, 180], touched: 60 },
  envelope: {
    label: "Envelope",
    help: "The course of an envelope, drawn: its corners are dragged.",
    takes: "number",
    most: 8,
    size: [260, 130],
    touched: 60,
  },
  wheel: {
    label: "Wheel",
    help: "Bends the pitch and springs back, or stays as a modulation wheel does; or moves what it is bound to.",
    takes: "number",
    most: SEVERAL,
    size: [48, 150],
    touched: 36,
    forms: PLAYED,
  },
  ribbon: {
    label: "Ribbon",
    help: "Pressed anywhere along its length: bends the pitch from there, or moves what it is bound to.",
    takes: "number",
    most: SEVERAL,
    size: [360, 44],
    touched: 28,
    forms: PLAYED,
  },
  pads: {
    label: "Pads",
    help: "Fields that play: in a kit one for each sound. Lower is harder; several fingers at once.",
    takes: "nothing",
    most: 0,
    size: [280, 200],
    touched: 80,
    forms: [
      { id: "8", label: "Eight" },
      { id: "4", label: "Four" },
      { id: "12", label: "Twelve" },
      { id: "16", label: "Sixteen" },
    ],
  },
  layers: {
    label: "Layers",
    help: "The layers of the instrument: which are heard, and how loud each is.",
    takes: "nothing",
    most: 0,
    size: [260, 120],
    touched: 44,
    forms: [
      { id: "mix", label: "Mute and level" },
      { id: "one", label: "One at a time" },
      { id: "blend", label: "Blended from one to the next" },
    ],
  },
  random: {
    label: "Randomise",
    help: "Moves all that it is bound to by chance, about where it is, but for what is fixed; one undo takes it back.",
    takes: "number",
    most: 256,
    size: [130, 44],
    touched: 32,
  },
  page: {
    label: "Pages",
    help: "Goes to the other pages of the face.",
    takes: "nothing",
    most: 0,
    size: [260, 40],
    touched: 28,
  },
  label: {
    label: "Text",
    help: "A title or a line of text.",
    takes: "nothing",
    most: 0,
    size: [240, 36],
    forms: [
      { id: "left", label: "From the left" },
      { id: "middle", label: "In the middle" },
      { id: "right", label: "From the right" },
    ],
  },
  picture: {
    label: "Picture",
    help: "A picture of your own, still or moving.",
    takes: "nothing",
    most: 0,
    size: [200, 140],
  },
  shape: {
    label: "Shape",
    help: "A field, a frame or a line.",
    takes: "nothing",
    most: 0,
    size: [200, 120],
    forms: [
      { id: "field", label: "Field" },
      { id: "frame", label: "Frame" },
      { id: "round", label: "Round" },
      { id: "line", label: "Line" },
    ],
  },
  meter: { label: "Meter", help: "How loud it is.", takes: "nothing", most: 0, size: [160, 28] },
  scope: {
    label: "Wave",
    help: "The wave that sounds, or a sample's with where it sounds.",
    takes: "nothing",
    most: 0,
    size: [240, 90],
    forms: [
      { id: "live", label: "What sounds" },
      { id: "sample", label: "A sample, and where it sounds" },
    ],
  },
  trace: {
    label: "Last note",
    help: "Which note was played last, and what of the instrument answered.",
    takes: "nothing",
    most: 0,
    size: [260, 52],
  },
  voices: { label: "Voices", help: "How many voices sound.", takes: "nothing", most: 0, size: [90, 52] },
  tuning: {
    label: "Tuning",
    help: "What the instrument is tuned by: the pitch of A4 is dragged or typed, the tuning's name stands below.",
    takes: "nothing",
    most: 0,
    size: [150, 60],
    touched: 28,
  },
  keys: {
    label: "Keys",
    help: "A strip of the keys that sound.",
    takes: "nothing",
    most: 0,
    size: [560, 70],
    touched: 40,
  },
};

export const faceKind = (kind: FaceKind): FaceKindSpec => KINDS[kind];

/** All kinds, as menus list them. */
export const faceKinds = (): readonly (FaceKindSpec & { readonly kind: FaceKind })[] =>
  FACE_KINDS.map((kind) => ({ kind, ...KINDS[kind] }));

/** Which form an item has. */
export const formOf = ({ kind, form }: Pick<FaceItem, "kind" | "form">): string => {
  const { forms = [] } = KINDS[kind];
  return (forms.find((f) => f.id === form) ?? forms[0])?.id ?? "";
};

/** Whether an item of a kind can be bound to something. */
export const isControl = (kind: FaceKind): boolean => KINDS[kind].takes !== "nothing";

/** Whether an item of a kind moves a whole row of things, so that one more joins the others. */
export const movesRow = (kind: FaceKind): boolean => KINDS[kind].most > SEVERAL;

/** Whether an item plays by itself, bound or not: a wheel that bends, a ribbon. */
export const isPlayed = (item: Pick<FaceItem, "kind" | "form">): boolean =>
  (item.kind === "wheel" || item.kind === "ribbon") && ["bend", "wheel"].includes(formOf(item));
