import DOMPurify from "dompurify";
import { fontType, guessedFrames, type PictureType, pictureInfo } from "../../core/face";
import {
  addFaceFont,
  addFacePictures,
  type FaceFont,
  type FacePicture,
  MOST_PICTURE_DATA,
} from "../../core/instrument";
import { few, plural } from "../../core/params";
import { Errand } from "./errand";
import { freshId } from "./ids";
import { tell } from "./notices";
import { session } from "./session";

/** The largest file that is looked at, in bytes, and all pictures and fonts of a face together, in letters of their data. */
const MOST_FILE = 32 * 2 ** 20;
const MOST_OF_ALL = 40e6;
/** Pictures of more pixels than this a side, or of more bytes, are made smaller: a page has 4,000 at the most, and mostly 640. */
const MOST_SIDE = 2400;
const MOST_BYTES = 1.5 * 2 ** 20;

/** Pictures as a picker offers them, and fonts. */
export const PICTURE_FILES = ".png,.jpg,.jpeg,.webp,.svg";
export const FONT_FILES = ".woff2,.woff,.ttf,.otf";

/** Whether a file is a picture by its name or its type: what it holds is looked at later. */
export const isPicture = (file: File): boolean =>
  /\.(png|jpe?g|webp|svg|gif|bmp|avif)$/i.test(file.name) || file.type.startsWith("image/");

/** Why a file can't be taken: told with its name. */
class NotTaken extends Error {}

const megabytes = (bytes: number): string => `${Math.max(1, Math.round(bytes / 2 ** 20))} MB`;

function base64Of(bytes: Uint8Array): string {
  let text = "";
  for (let at = 0; at < bytes.length; at += 0x8000) text += String.fromCharCode(...bytes.subarray(at, at + 0x8000));
  return btoa(text);
}

/** Names of files as people know them, without what says their kind. */
const nameOf = (file: File): string => file.name.replace(/\.[^.]*$/, "").slice(0, 100) || "Picture";

/** What an element does by itself when something happens. */
const HANDLER = /\son[a-z]+\s*=\s*(?:"[^"]*"|'[^']*')/gi;

/** Whether an attribute of a drawing leads out of it: a link to anything but a part of it or a picture in it, or an address in a style that is none of its own parts. */
export function leadsOut(name: string, given: string): boolean {
  const value = given.trim();
  if (/(^|:)href$/i.test(name)) return !value.startsWith("#") && !/^data:image\/(png|jpeg|webp);base64,/i.test(value);
  return /url\((?!\s*["']?\s*#)/i.test(value);
}

/** An SVG without anything that acts or is fetched from elsewhere; the number of things that were taken out. */
export function cleanSvg(text: string): { readonly svg: string; readonly removed: number } {
  let removed = 0;
  // The page's policy complains of handlers as soon as they are parsed, though nothing calls them there: they go first.
  const quiet = text.replace(HANDLER, () => {
    removed++;
    return "";
  });
  const purify = DOMPurify(window);
  purify.addHook("uponSanitizeAttribute", (_node, data) => {
    if (leadsOut(data.attrName, data.attrValue)) {
      data.keepAttr = false;
      removed++;
    }
  });
  const svg = purify.sanitize(quiet, {
    USE_PROFILES: { svg: true, svgFilters: true },
    // Rules of style may fetch; what they say can be said by attributes.
    FORBID_TAGS: ["style", "foreignObject", "a", "animate", "set", "animateTransform", "animateMotion"],
    ADD_TAGS: ["use"],
    NAMESPACE: "http://www.w3.org/2000/svg",
    PARSER_MEDIA_TYPE: "application/xhtml+xml",
  });
  removed += purify.removed.filter((r) => "element" in r && r.element.nodeName !== "BODY").length;
  return { svg, removed };
}

async function raster(
  file: File,
  type: PictureType,
  width: number,
  height: number,
): Promise<Omit<FacePicture, "id" | "name">> {
  let bitmap: ImageBitmap;
  try {
    bitmap = await createImageBitmap(file);
  } catch {
    throw new NotTaken("it is damaged: nothing can be drawn of it");
  }
  // A filmstrip keeps its pixels: frames that are made smaller no longer meet them.
  const strip = guessedFrames({ width, height }) > 1;
  const large = Math.max(width, height) > MOST_SIDE || file.size > MOST_BYTES;
  if (!large || (strip && file.size < MOST_PICTURE_DATA * 0.7)) {
    bitmap.close();
    const bytes = new Uint8Array(await file.arrayBuffer());
    return { width, height, data: `data:image/${type};base64,${base64Of(bytes)}` };
  }
  const scale = strip ? 1 : Math.min(1, MOST_SIDE / Math.max(width, height));
  const canvas = new OffscreenCanvas(Math.max(1, Math.round(width * scale)), Math.max(1, Math.round(height * scale)));
  canvas.getContext("2d")?.drawImage(bitmap, 0, 0, canvas.width, canvas.height);
  bitmap.close();
  const blob = await canvas.convertToBlob({ type: "image/webp", quality: 0.9 });
  const bytes = new Uint8Array(await blob.arrayBuffer());
  return { width: canvas.width, height: canvas.height, data: `data:image/webp;base64,${base64Of(bytes)}` };
}

async function pictureOf(file: File): Promise<{ readonly picture: FacePicture; readonly removed: number }> {
  if (file.size > MOST_FILE)
    throw new NotTaken(`it is ${megabytes(file.size)} large, and a picture may have ${megabytes(MOST_FILE)}`);
  const bytes = new Uint8Array(await file.slice(0, 65536).arrayBuffer());
  const info = pictureInfo(bytes) ?? pictureInfo(new Uint8Array(await file.arrayBuffer()));
  if (!info) throw new NotTaken("it is no PNG, JPEG, WebP or SVG picture");
  const [id, name] = [freshId(), nameOf(file)];
  if (info.type !== "svg+xml")
    return { picture: { id, name, ...(await raster(file, info.type, info.width ?? 1, info.height ?? 1)) }, removed: 0 };
  const { svg, removed } = cleanSvg(await file.text());
  if (!/<svg\b/i.test(svg)) throw new NotTaken("nothing can be drawn of this SVG");
  const data = `data:image/svg+xml;base64,${base64Of(new TextEncoder().encode(svg))}`;
  const whole = (size: number | null): number => Math.min(20000, Math.max(1, Math.round(size ?? 300)));
  return { picture: { id, name, width: whole(info.width), height: whole(info.height), data }, removed };
}

/** Letters that pictures and fonts of the open instrument take together. */
const usedNow = (): number => {
  const { pictures = [], fonts = [] } = session.instrument?.face ?? {};
  return [...pictures, ...fonts].reduce((sum, { data }) => sum + data.length, 0);
};

/**
 * The pictures among some files, as the face can have them (`addFacePictures`); tells what can't be taken, and why. Where another instrument is open by
 * then, they lie among the pictures of the one for which they were read, and there are none for this one.
 */
export async function readPictures(files: readonly File[]): Promise<readonly FacePicture[]> {
  const errand = files.length > 0 ? Errand.begin("import pictures") : null;
  if (!errand) return [];
  const taken: FacePicture[] = [];
  const refused: string[] = [];
  let removed = 0;
  let room = MOST_OF_ALL - usedNow();
  for (const file of files) {
    try {
      const found = await pictureOf(file);
      const { length } = found.picture.data;
      if (length > MOST_PICTURE_DATA) throw new NotTaken("it is too large, even made smaller");
      if (length > room)
        throw new NotTaken(`all pictures of a face together may take ${megabytes(MOST_OF_ALL * 0.75)}`);
      room -= length;
      removed += found.removed;
      taken.push(found.picture);
    } catch (error) {
      refused.push(`${file.name}: ${error instanceof NotTaken ? error.message : "it can't be read"}`);
    }
  }
  if (removed > 0)
    tell(
      "warning",
      `${plural(removed, "part")} of the drawing removed: nothing in it may act, or be fetched from elsewhere.`,
    );
  if (refused.length > 0) tell("error", `Not taken: ${few(refused, "; ")}.`);
  if (errand.isOpen || taken.length === 0) return taken;
  await errand.deliver(addFacePictures(taken), plural(taken.length, "picture"));
  return [];
}

/** Puts the pictures among some files beside those of the face, in one undo step. */
export async function takePictures(files: readonly File[]): Promise<void> {
  const taken = await readPictures(files);
  if (taken.length > 0) session.commit(addFacePictures(taken));
}

/** Puts a font beside those of the face; tells why where it can't be taken. */
export async function takeFont(file: File): Promise<FaceFont | null> {
  try {
    const errand = Errand.begin("import a font");
    if (!errand) return null;
    if (file.size > MOST_FILE) throw new NotTaken(`it is ${megabytes(file.size)} large`);
    const bytes = new Uint8Array(await file.arrayBuffer());
    const type = fontType(bytes);
    if (!type) throw new NotTaken("it is no WOFF, WOFF2, TrueType or OpenType font");
    try {
      await new FontFace("tried", bytes).load();
    } catch {
      throw new NotTaken("it is damaged");
    }
    const data = `data:font/${type};base64,${base64Of(bytes)}`;
    if (data.length > Math.min(MOST_PICTURE_DATA, MOST_OF_ALL - usedNow())) throw new NotTaken("it is too large");
    const font = { id: freshId(), name: nameOf(file), licence: "", data };
    return (await errand.deliver(addFaceFont(font), `The font ${font.name}`)) === "open" ? font : null;
  } catch (error) {
    tell("error", `Not taken: ${file.name}: ${error instanceof NotTaken ? error.message : "it can't be read"}.`);
    return null;
  }
}
