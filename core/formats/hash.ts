import { sha256 } from "@noble/hashes/sha2.js";

/** SHA-256 (FIPS 180-4) of bytes, in hexadecimal. */
export const sha256Of = (bytes: Uint8Array): string => sha256OfParts([bytes]);

/** SHA-256 of parts that follow one another, as if they were joined. */
export function sha256OfParts(parts: Iterable<Uint8Array>): string {
  const hash = sha256.create();
  for (const part of parts) hash.update(part);
  let text = "";
  for (const byte of hash.digest()) text += byte.toString(16).padStart(2, "0");
  return text;
}
