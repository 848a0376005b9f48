import type { CSSProperties } from "react";
import { faceTheme } from "../../core/face";
import type { FaceTheme } from "../../core/instrument";

const FONTS = { plain: "var(--font)", display: "var(--font-display)", mono: "var(--font-number)" } as const;

/** A theme as the variables with which its items are drawn; they hold for whatever stands within. */
export function faceStyle(theme: FaceTheme): CSSProperties {
  const look = faceTheme(theme);
  return {
    "--f-ground": look.ground,
    "--f-ink": look.ink,
    "--f-soft": look.soft,
    "--f-spot": look.spot,
    "--f-on-spot": look.onSpot,
    "--f-fill": look.fill,
    "--f-radius": `${look.radius}px`,
    "--f-stroke": `${look.stroke}px`,
    background: look.ground,
    color: look.ink,
    fontFamily: FONTS[look.font],
    fontSize: 14,
    lineHeight: 1.25,
    textTransform: look.capitals ? "uppercase" : undefined,
  } as CSSProperties;
}

export const toneOf = (tone: string): string => `var(--f-${tone})`;
