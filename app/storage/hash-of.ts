import { sha256Of } from "../../core/formats";

/** SHA-256 of bytes, in hexadecimal: by the browser where it offers that (which takes a secure page), else by our own. */
export async function hashOf(bytes: Uint8Array<ArrayBuffer>): Promise<string> {
  const subtle = globalThis.crypto?.subtle;
  if (!subtle) return sha256Of(bytes);
  let text = "";
  for (const byte of new Uint8Array(await subtle.digest("SHA-256", bytes))) text += byte.toString(16).padStart(2, "0");
  return text;
}
