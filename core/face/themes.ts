import type { FaceTheme, Tone } from "../instrument";

/** How a theme draws dials and columns. */
export const DIAL_FORMS = ["hand", "slice", "ring", "block", "line", "dots"] as const;
export type DialForm = (typeof DIAL_FORMS)[number];

/** Whether a name is that of a form of dials. */
export const isDialForm = (name: string): name is DialForm => (DIAL_FORMS as readonly string[]).includes(name);

/** A look for a whole face: its colours as #rrggbb, its letters, and the form of what moves. */
export interface ThemeSpec {
  readonly label: string;
  readonly help: string;
  readonly ground: string;
  readonly ink: string;
  readonly soft: string;
  readonly spot: string;
  readonly onSpot: string;
  /** What lies behind what moves. */
  readonly fill: string;
  /** One of the fonts that ship. */
  readonly font: "plain" | "display" | "mono";
  readonly form: DialForm;
  /** Of corners, in pixels; of lines. */
  readonly radius: number;
  readonly stroke: number;
  readonly capitals?: true;
}

const THEMES: Readonly<Record<FaceTheme, ThemeSpec>> = {
  ledger: {
    label: "Ledger",
    help: "Ink on paper, fine lines.",
    ground: "#faf7ec",
    ink: "#1c202b",
    soft: "#5b5f6b",
    spot: "#2b49c0",
    onSpot: "#ffffff",
    fill: "#e5dfcd",
    font: "plain",
    form: "hand",
    radius: 2,
    stroke: 1.5,
  },
  chalk: {
    label: "Chalkboard",
    help: "Cream and orange on slate.",
    ground: "#24353b",
    ink: "#f3ead3",
    soft: "#a9bdb4",
    spot: "#e4733f",
    onSpot: "#1d1712",
    fill: "#37474b",
    font: "plain",
    form: "slice",
    radius: 18,
    stroke: 0,
  },
  blueprint: {
    label: "Blueprint",
    help: "White lines on blue, letters of one width.",
    ground: "#173b78",
    ink: "#f2f7ff",
    soft: "#b3c9ee",
    spot: "#ffd84d",
    onSpot: "#16284a",
    fill: "#1f4a92",
    font: "mono",
    form: "line",
    radius: 0,
    stroke: 1,
  },
  kraft: {
    label: "Packing paper",
    help: "Black stencil on brown, square and heavy.",
    ground: "#c7a57a",
    ink: "#1d150c",
    soft: "#4b3720",
    spot: "#8c1f14",
    onSpot: "#fff3e2",
    fill: "#b08d60",
    font: "display",
    form: "block",
    radius: 0,
    stroke: 3,
    capitals: true,
  },
  enamel: {
    label: "Enamel sign",
    help: "Red rings on white.",
    ground: "#fdfdf8",
    ink: "#20302b",
    soft: "#586963",
    spot: "#c3202c",
    onSpot: "#ffffff",
    fill: "#e3e9e2",
    font: "display",
    form: "ring",
    radius: 10,
    stroke: 6,
  },
  tube: {
    label: "Inner tube",
    help: "Small lights on rubber.",
    ground: "#17171a",
    ink: "#ededf2",
    soft: "#9a9aa8",
    spot: "#b7e36a",
    onSpot: "#17200a",
    fill: "#2b2b31",
    font: "mono",
    form: "dots",
    radius: 6,
    stroke: 2,
  },
};

export const faceTheme = (theme: FaceTheme): ThemeSpec => THEMES[theme];

/** The colour that something of a tone is written in. */
export const colourOf = (theme: ThemeSpec, tone: Tone): string => theme[tone];

/** Relative luminance of a colour, 0 to 1 (WCAG 2.2). */
function luminance(colour: string): number {
  const part = (at: number) => {
    const share = Number.parseInt(colour.slice(at, at + 2), 16) / 255;
    return share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4;
  };
  return 0.2126 * part(1) + 0.7152 * part(3) + 0.0722 * part(5);
}

/** How far two colours stand apart, 1 to 21 (WCAG 2.2). */
export function contrast(a: string, b: string): number {
  const [high, low] = [luminance(a), luminance(b)].sort((x, y) => y - x) as [number, number];
  return (high + 0.05) / (low + 0.05);
}
