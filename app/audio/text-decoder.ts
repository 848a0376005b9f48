/** The worklet's scope has no TextDecoder; the script interpreter needs one for UTF-8. Must be imported before it. */
export class Utf8Decoder {
  decode(bytes?: Uint8Array): string {
    let out = "";
    for (let i = 0; bytes && i < bytes.length; ) {
      const a = bytes[i++] ?? 0;
      const more = a < 0x80 ? 0 : a < 0xe0 ? 1 : a < 0xf0 ? 2 : 3;
      let code = more === 0 ? a : a & (0x3f >> more);
      for (let k = 0; k < more; k++) code = (code << 6) | ((bytes[i++] ?? 0) & 0x3f);
      out += String.fromCodePoint(Math.min(code, 0x10ffff));
    }
    return out;
  }
}

const scope = globalThis as { TextDecoder?: unknown };
scope.TextDecoder ??= Utf8Decoder;
