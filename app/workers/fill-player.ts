/** Puts an instrument's package into the player's page; the parts of a file, for a Blob. The package is read in stretches, however large it is. */
export async function fillPlayer(template: string, title: string, file: Blob): Promise<string[]> {
  const [head = "", middle = "", tail] = template.split(/%TITLE%|%PACKAGE%/);
  if (tail === undefined) throw new Error("the player's template has no place for the instrument");
  if (file.size > MOST_BYTES)
    throw new Error(
      `its sounds take ${Math.round(file.size / 1e6)} MB, and a browser opens a page of up to ${Math.round(MOST_BYTES / 1e6)} MB of them: ship the package, or fewer sounds`,
    );
  const parts = [head, escapeHtml(title), middle];
  for (let at = 0; at < file.size; at += STRETCH)
    parts.push(toBase64(new Uint8Array(await file.slice(at, at + STRETCH).arrayBuffer())));
  return [...parts, tail];
}

/** Bytes of a package that a player can carry: the page holds them as one text, of which browsers allow 2^29 letters. */
export const MOST_BYTES = 380e6;

const escapeHtml = (text: string): string => text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);

/** Bytes that make base64 without a rest: of one call, and of one stretch of a file. */
const CALL = 3 * 8192;
const STRETCH = CALL * 128;

/** Base64 of bytes, in stretches that keep the call's arguments few. */
function toBase64(bytes: Uint8Array): string {
  const parts: string[] = [];
  for (let at = 0; at < bytes.length; at += CALL)
    parts.push(btoa(String.fromCharCode(...bytes.subarray(at, at + CALL))));
  return parts.join("");
}
