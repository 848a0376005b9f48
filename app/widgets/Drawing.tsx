import { type HTMLAttributes, useEffect, useRef } from "react";
import { useView } from "../state/view";
import { useSize } from "./use-size";

/** Colours of the theme, as canvas needs them. */
export type Colours = Record<
  | "ground"
  | "sheet"
  | "well"
  | "rule"
  | "rule-strong"
  | "ink"
  | "ink-soft"
  | "ink-faint"
  | "cobalt"
  | "vermilion"
  | "leaf"
  | "ochre"
  | "plum"
  | "tint-cobalt"
  | "tint-leaf"
  | "tint-ochre"
  | "tint-plum"
  | "tint-vermilion"
  | "on-spot"
  | "mark-brick"
  | "mark-sand"
  | "mark-moss"
  | "mark-teal"
  | "mark-slate"
  | "mark-lilac"
  | "mark-rose"
  | "mark-umber",
  string
>;

const NAMES: readonly (keyof Colours)[] = [
  "ground",
  "sheet",
  "well",
  "rule",
  "rule-strong",
  "ink",
  "ink-soft",
  "ink-faint",
  "cobalt",
  "vermilion",
  "leaf",
  "ochre",
  "plum",
  "tint-cobalt",
  "tint-leaf",
  "tint-ochre",
  "tint-plum",
  "tint-vermilion",
  "on-spot",
  "mark-brick",
  "mark-sand",
  "mark-moss",
  "mark-teal",
  "mark-slate",
  "mark-lilac",
  "mark-rose",
  "mark-umber",
];

/** The colours as they are now, read once for each theme: asking for them makes the browser work out all styles. */
let read: { readonly theme: string; readonly colours: Colours } | null = null;

function coloursOf(element: Element): Colours {
  const theme = `${document.documentElement.dataset.theme ?? ""} ${matchMedia("(prefers-color-scheme: dark)").matches}`;
  if (read?.theme !== theme) {
    const style = getComputedStyle(element);
    const colours = Object.fromEntries(NAMES.map((n) => [n, style.getPropertyValue(`--${n}`).trim()])) as Colours;
    read = { theme, colours };
  }
  return read.colours;
}

export type Draw = (pen: CanvasRenderingContext2D, width: number, height: number, colours: Colours) => void;

interface DrawingProps extends HTMLAttributes<HTMLDivElement> {
  /** Draws the whole; called anew whenever it changes, the size or the theme. */
  readonly draw: Draw;
  /** Says in words what is drawn. */
  readonly label: string;
}

/** A canvas that fits its box, sharp on any screen, in the theme's colours. */
export function Drawing({ draw, label, children, ...rest }: DrawingProps) {
  const [box, { width, height }] = useSize<HTMLDivElement>();
  const canvas = useRef<HTMLCanvasElement>(null);
  const theme = useView((v) => v.theme);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the theme changes the colours that are read here
  useEffect(() => {
    const pen = canvas.current?.getContext("2d");
    if (!pen || !canvas.current || width === 0) return;
    const paint = () => {
      if (!canvas.current) return;
      const scale = devicePixelRatio || 1;
      const [across, down] = [Math.round(width * scale), Math.round(height * scale)];
      // Setting its size gives a canvas new memory, also where it is the same.
      if (canvas.current.width !== across) canvas.current.width = across;
      if (canvas.current.height !== down) canvas.current.height = down;
      pen.setTransform(scale, 0, 0, scale, 0, 0);
      pen.clearRect(0, 0, width, height);
      draw(pen, width, height, coloursOf(canvas.current));
    };
    const frame = requestAnimationFrame(paint);
    const dark = matchMedia("(prefers-color-scheme: dark)");
    dark.addEventListener("change", paint);
    return () => {
      cancelAnimationFrame(frame);
      dark.removeEventListener("change", paint);
    };
  }, [draw, width, height, theme]);
  return (
    <div ref={box} {...rest} className={`relative overflow-hidden ${rest.className ?? ""}`}>
      <canvas ref={canvas} role="img" aria-label={label} style={{ width, height }} className="absolute inset-0" />
      {children}
    </div>
  );
}
