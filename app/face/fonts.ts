import { useEffect } from "react";
import type { FaceFont, Instrument } from "../../core/instrument";
import { useFaceOf } from "./face-world";

/** The family by which a font of a face is used: its id alone could be that of another face. */
export const familyOf = (font: Pick<FaceFont, "id">): string => `face-${font.id}`;

const fontsOf = (instrument: Instrument): readonly FaceFont[] => instrument.face.fonts;

/** The bytes of a data URL. */
function bytesOf(data: string): ArrayBuffer {
  const text = atob(data.slice(data.indexOf(",") + 1));
  return Uint8Array.from(text, (c) => c.charCodeAt(0)).buffer as ArrayBuffer;
}

/** Lets the page write in the fonts that came with the face, for as long as it is shown. A font that can't be read is left out. */
export function useFaceFonts(): void {
  const fonts = useFaceOf(fontsOf);
  useEffect(() => {
    const added = fonts.flatMap((font) => {
      try {
        const face = new FontFace(familyOf(font), bytesOf(font.data));
        document.fonts.add(face);
        // What is damaged is written in the theme's font.
        face.load().catch(() => document.fonts.delete(face));
        return [face];
      } catch {
        return [];
      }
    });
    return () => {
      for (const face of added) document.fonts.delete(face);
    };
  }, [fonts]);
}
