/** Puts an instrument's package into the player's page; the parts of a file, for a Blob. */
export function fillPlayer(template: string, title: string, bytes: Uint8Array): string[] {
  const [head = "", middle = "", tail] = template.split(/%TITLE%|%PACKAGE%/);
  if (tail === undefined) throw new Error("the player's template has no place for the instrument");
  return [head, escapeHtml(title), middle, toBase64(bytes), tail];
}

const escapeHtml = (text: string): string => text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);

/** Base64 of bytes, in stretches that keep the call's arguments few. */
function toBase64(bytes: Uint8Array): string {
  const parts: string[] = [];
  const step = 3 * 8192;
  for (let at = 0; at < bytes.length; at += step)
    parts.push(btoa(String.fromCharCode(...bytes.subarray(at, at + step))));
  return parts.join("");
}
