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

const KINDS: Readonly<Record<FaceKind, FaceKindSpec>> = {
  dial: { label: "Dial", help: "Turned up and down.", takes: "number", most: 1, size: [96, 124], touched: 40 },
  slider: {
    label: "Slider",
    help: "Moved along its length.",
    takes: "number",
    most: 1,
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
    most: 1,
    size: [96, 60],
    touched: 28,
  },
  button: {
    label: "Button",
    help: "To its highest while it is held, or from press to press.",
    takes: "any",
    most: 1,
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
  random: {
    label: "Randomise",
    help: "Moves all that it is bound to by chance, a little about where it is; one undo takes it back.",
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
  scope: { label: "Wave", help: "The wave that sounds.", takes: "nothing", most: 0, size: [240, 90] },
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

/** Whether an item of a kind moves anything. */
export const isControl = (kind: FaceKind): boolean => KINDS[kind].takes !== "nothing";
