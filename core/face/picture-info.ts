/** Kinds of pictures that a face takes. */
export type PictureType = "png" | "jpeg" | "webp" | "svg+xml";

/** What a picture's file says of itself; width and height in pixels, null where an SVG says nothing of them. */
export interface PictureInfo {
  readonly type: PictureType;
  readonly width: number | null;
  readonly height: number | null;
}

/** Letters of a file that are read to find out whether it is an SVG. */
const HEAD = 4096;
const LARGEST = 20000;

const text = (bytes: Uint8Array, from: number, to: number): string => String.fromCharCode(...bytes.subarray(from, to));

/** The frame header of a JPEG (ITU-T T.81, B.2.2) has its size. */
function jpegSize(bytes: Uint8Array, view: DataView): readonly [number, number] | null {
  let at = 2;
  while (at + 9 < bytes.length) {
    if (bytes[at] !== 0xff) return null;
    const marker = bytes[at + 1] as number;
    if (marker === 0xff) {
      at++;
      continue;
    }
    const isFrame = marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker);
    if (isFrame) return [view.getUint16(at + 7), view.getUint16(at + 5)];
    at += 2 + view.getUint16(at + 2);
  }
  return null;
}

/** The size of a WebP (RFC 9649): lossy, lossless or extended. */
function webpSize(bytes: Uint8Array, view: DataView): readonly [number, number] | null {
  if (bytes.length < 30) return null;
  const kind = text(bytes, 12, 16);
  if (kind === "VP8 ") return [view.getUint16(26, true) & 0x3fff, view.getUint16(28, true) & 0x3fff];
  if (kind === "VP8L") {
    const bits = view.getUint32(21, true);
    return [(bits & 0x3fff) + 1, ((bits >> 14) & 0x3fff) + 1];
  }
  const three = (at: number) => view.getUint16(at, true) + ((bytes[at + 2] as number) << 16) + 1;
  return kind === "VP8X" ? [three(24), three(27)] : null;
}

/** The size that an SVG's outermost element has, by its width and height, else by its view box. */
function svgSize(head: string): readonly [number | null, number | null] {
  const tag = /<svg\b[^>]*>/i.exec(head)?.[0] ?? "";
  const length = (name: string): number | null => {
    const found = new RegExp(`\\s${name}\\s*=\\s*["']\\s*(\\d+(?:\\.\\d+)?)(?:px)?\\s*["']`, "i").exec(tag)?.[1];
    return found === undefined ? null : Number(found);
  };
  const box = /\sviewBox\s*=\s*["']\s*[-\d.]+[\s,]+[-\d.]+[\s,]+(\d+(?:\.\d+)?)[\s,]+(\d+(?:\.\d+)?)/i.exec(tag);
  return [length("width") ?? (box ? Number(box[1]) : null), length("height") ?? (box ? Number(box[2]) : null)];
}

/**
 * What kind of picture some bytes are, by their content and never by a name (PNG: ISO/IEC 15948; JPEG: ITU-T T.81; WebP: RFC 9649; SVG: an `svg` element
 * among the first 4,096 bytes); null where they are none of these or say an impossible size. Never throws.
 */
export function pictureInfo(bytes: Uint8Array): PictureInfo | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const sized = (type: PictureType, size: readonly [number, number] | null): PictureInfo | null =>
    size && size[0] >= 1 && size[1] >= 1 && size[0] <= LARGEST && size[1] <= LARGEST
      ? { type, width: size[0], height: size[1] }
      : null;
  if (bytes.length >= 24 && text(bytes, 1, 4) === "PNG" && bytes[0] === 0x89)
    return sized("png", [view.getUint32(16), view.getUint32(20)]);
  if (bytes.length >= 4 && bytes[0] === 0xff && bytes[1] === 0xd8) return sized("jpeg", jpegSize(bytes, view));
  if (bytes.length >= 16 && text(bytes, 0, 4) === "RIFF" && text(bytes, 8, 12) === "WEBP")
    return sized("webp", webpSize(bytes, view));
  const head = text(bytes, 0, Math.min(HEAD, bytes.length));
  if (!/^\s*(?:\u00ef\u00bb\u00bf)?\s*<(?:\?xml|!--|!doctype svg|svg\b)/i.test(head) || !/<svg\b/i.test(head))
    return null;
  const [width, height] = svgSize(head);
  return { type: "svg+xml", width, height };
}

/** What kind of font some bytes are (WOFF: W3C; OpenType: ISO/IEC 14496-22), by their content; null where they are none. */
export function fontType(bytes: Uint8Array): "woff" | "woff2" | "ttf" | "otf" | null {
  if (bytes.length < 12) return null;
  const head = text(bytes, 0, 4);
  if (head === "wOFF") return "woff";
  if (head === "wOF2") return "woff2";
  if (head === "OTTO") return "otf";
  return head === "\u0000\u0001\u0000\u0000" || head === "true" ? "ttf" : null;
}
