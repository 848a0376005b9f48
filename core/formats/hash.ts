import { sha256 } from "@noble/hashes/sha2.js";

/** SHA-256 (FIPS 180-4) of bytes, in hexadecimal. */
export function sha256Of(bytes: Uint8Array): string {
  let text = "";
  for (const byte of sha256(bytes)) text += byte.toString(16).padStart(2, "0");
  return text;
}
