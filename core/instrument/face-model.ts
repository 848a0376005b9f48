/** What can stand on a face. */
export const FACE_KINDS = [
  "dial",
  "slider",
  "columns",
  "number",
  "switch",
  "button",
  "choice",
  "stepper",
  "xy",
  "envelope",
  "wheel",
  "ribbon",
  "pads",
  "layers",
  "random",
  "page",
  "label",
  "picture",
  "shape",
  "meter",
  "scope",
  "trace",
  "voices",
  "tuning",
  "keys",
] as const;
export type FaceKind = (typeof FACE_KINDS)[number];

/** How strongly an item speaks, in the theme's colours. */
export const TONES = ["ink", "soft", "spot", "fill"] as const;
export type Tone = (typeof TONES)[number];

/** A place on a parameter's travel by which something is decided: it holds at least there, below it, or from there up to another. */
export interface FaceTest {
  readonly address: string;
  readonly is: "above" | "below" | "between";
  /** In shares of the travel, 0 to 1; `upTo` counts where it is between. */
  readonly share: number;
  readonly upTo: number;
}

/** What an item is while a test holds: shown (else gone), usable (else pale), written in another tone, drawn by another picture. */
export interface FaceCondition extends FaceTest {
  readonly does: "shows" | "enables" | "colours" | "pictures";
  readonly tone: Tone;
  /** The id of a picture. */
  readonly picture: string | null;
}

/** One parameter that an item moves. */
export interface Move {
  readonly address: string;
  /** The part of its travel that the item goes over, in shares of it (0 to 1); from above downward it goes the other way round. */
  readonly from: number;
  readonly to: number;
  /** How the way between is bent: 0 straight, above 0 fast at first (−1 to 1). */
  readonly bend: number;
  /** Chance leaves it where it is. */
  readonly fixed: boolean;
}

/** What a picture does with the place of what an item moves. */
export const LAYER_WAYS = ["stays", "turns", "slides", "rises", "fills", "frames", "plays"] as const;
export type LayerWay = (typeof LAYER_WAYS)[number];

/** One of the pictures that an item is drawn with, the hindmost first. */
export interface PictureLayer {
  /** The id of a picture of the face. */
  readonly picture: string;
  readonly does: LayerWay;
  /** Frames that stand below each other in it (beside each other where it is wider than tall), for `frames` and `plays`. */
  readonly frames: number;
  /** Frames a second, for `plays`. */
  readonly rate: number;
}

/** A sample as it is drawn: the SHA-256 of its content, and its peaks over its length, 0 to 1. */
export interface FaceWave {
  readonly sample: string;
  readonly outline: readonly number[];
}

/** What an item has of its own instead of its theme's: colours as #rrggbb, letters in pixels, the form of a dial, a font's id. */
export interface OwnLook {
  readonly ink: string | null;
  readonly spot: string | null;
  readonly fill: string | null;
  readonly letters: number | null;
  readonly dial: string | null;
  readonly font: string | null;
}

/** Sizes of screens for which a face may be laid out apart. */
export const SCREENS = ["tablet", "phone"] as const;
export type Screen = (typeof SCREENS)[number];

/** Where an item stands on another screen, in pixels of its page there. */
export interface FacePlace {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly hidden: boolean;
}

/** To which edges of its page an item keeps its distance where that becomes larger or smaller; `scale`: it grows along. */
export const ANCHORS = ["start", "middle", "end", "both", "scale"] as const;
export type Anchor = (typeof ANCHORS)[number];

/** Something on a face page; x, y, width and height in page pixels. */
export interface FaceItem {
  readonly id: string;
  readonly kind: FaceKind;
  /** What it is called in the outline; empty: after what it is and does. */
  readonly name: string;
  /** The page that it stands on; null: on all of them. */
  readonly page: string | null;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  /** By how many degrees it is turned, clockwise. */
  readonly turn: number;
  readonly text: string;
  /** What it moves: the first gives its own place; the columns, an XY's height, all that goes along. */
  readonly moves: readonly Move[];
  /** Which of its forms it has, such as the way a slider goes; empty: the first. */
  readonly form: string;
  readonly tone: Tone;
  /** How far chance moves something to each side, as a share of its travel. */
  readonly amount: number;
  readonly pictures: readonly PictureLayer[];
  /** A sample of the instrument whose wave is drawn, and its outline from the left to the right, 0 to 1. */
  readonly wave: FaceWave | null;
  readonly look: OwnLook;
  /** Items of one group are selected together. */
  readonly group: string | null;
  readonly locked: boolean;
  readonly hidden: boolean;
  readonly when: readonly FaceCondition[];
  readonly anchorX: Anchor;
  readonly anchorY: Anchor;
  /** Where it was put by hand on other screens; null: where its anchors lead. */
  readonly tablet: FacePlace | null;
  readonly phone: FacePlace | null;
}

export interface FacePage {
  readonly id: string;
  readonly name: string;
  /** Its own size in pixels; null: as all of them. */
  readonly width: number | null;
  readonly height: number | null;
  /** Whether it lies over the page that one comes from. */
  readonly over: boolean;
  /** While this holds the page is shown by itself; null: only when somebody goes there. */
  readonly when: FaceTest | null;
}

/** A picture that came with the face: a data URL, and its size in pixels. */
export interface FacePicture {
  readonly id: string;
  readonly name: string;
  readonly width: number;
  readonly height: number;
  readonly data: string;
}

/** A font that came with the face, as a data URL, and under which licence. */
export interface FaceFont {
  readonly id: string;
  readonly name: string;
  readonly licence: string;
  readonly data: string;
}

/** What lies behind all items. */
export const GROUNDS = ["theme", "colour", "gradient", "picture", "wave", "spectrum"] as const;
export interface FaceGround {
  readonly kind: (typeof GROUNDS)[number];
  /** As #rrggbb; a gradient goes from the first to the second. */
  readonly colour: string;
  readonly second: string;
  /** Which way a gradient goes, in degrees. */
  readonly angle: number;
  readonly picture: string | null;
  /** A wave or a spectrum of the instrument's own, drawn from the left to the right: 0 to 1. */
  readonly outline: readonly number[];
}

/** A line to which items settle. */
export interface FaceGuide {
  readonly way: "x" | "y";
  readonly at: number;
}

/** The looks that a face can have. */
export const FACE_THEMES = ["ledger", "chalk", "blueprint", "kraft", "enamel", "tube"] as const;
export type FaceTheme = (typeof FACE_THEMES)[number];

export interface FaceSize {
  readonly width: number;
  readonly height: number;
}

export interface Face {
  readonly width: number;
  readonly height: number;
  readonly theme: FaceTheme;
  readonly ground: FaceGround;
  readonly pages: readonly FacePage[];
  /** From the back to the front. */
  readonly items: readonly FaceItem[];
  readonly pictures: readonly FacePicture[];
  readonly fonts: readonly FaceFont[];
  readonly guides: readonly FaceGuide[];
  /** Sizes of the pages on other screens; null: as on a desktop, made smaller. */
  readonly tablet: FaceSize | null;
  readonly phone: FaceSize | null;
}
