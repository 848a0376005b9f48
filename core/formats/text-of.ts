import { strFromU8 } from "fflate";

/** Bytes as text: UTF-8, or what older programs wrote (Latin-1) where that isn't what they are. */
export function textOf(bytes: Uint8Array): string {
  const text = strFromU8(bytes);
  return text.includes("\ufffd") ? strFromU8(bytes, true) : text;
}
