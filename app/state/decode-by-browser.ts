const MP3_RATES = [44100, 48000, 32000];

/**
 * The rate of a compressed file as far as its head tells: MP3 by its first frame, Ogg and MP4 by what they usually hold.
 */
export function rateOfHead(head: Uint8Array): number {
  const tag = String.fromCharCode(...head.subarray(0, 4));
  if (String.fromCharCode(...head.subarray(4, 8)) === "ftyp") return rateOfMp4(head);
  if (tag === "OggS") {
    const text = String.fromCharCode(...head.subarray(0, 64));
    const vorbis = text.indexOf("\u0001vorbis");
    if (vorbis < 0) return 48000;
    const at = vorbis + 12;
    return (head[at] ?? 0) | ((head[at + 1] ?? 0) << 8) | ((head[at + 2] ?? 0) << 16);
  }
  const tagged = tag.startsWith("ID3");
  const size = (k: number) => (head[k] ?? 0) & 127;
  const from = tagged ? 10 + ((size(6) << 21) | (size(7) << 14) | (size(8) << 7) | size(9)) : 0;
  for (let i = from; i + 2 < head.length; i++) {
    if (head[i] !== 0xff || ((head[i + 1] ?? 0) & 0xe0) !== 0xe0) continue;
    const version = ((head[i + 1] ?? 0) >> 3) & 3;
    const layer = ((head[i + 1] ?? 0) >> 1) & 3;
    const rate = MP3_RATES[((head[i + 2] ?? 0) >> 2) & 3];
    if (layer === 1 && rate && version !== 1) return version === 3 ? rate : version === 2 ? rate / 2 : rate / 4;
  }
  return 44100;
}

/** The rate in the sound entry of an MP4 file (ISO/IEC 14496-12), wherever in these bytes it lies. */
function rateOfMp4(bytes: Uint8Array): number {
  for (let i = 0; i + 32 < bytes.length; i++) {
    if (bytes[i] !== 0x6d || bytes[i + 1] !== 0x70 || bytes[i + 2] !== 0x34 || bytes[i + 3] !== 0x61) continue;
    return ((bytes[i + 28] ?? 0) << 8) | (bytes[i + 29] ?? 0) || 44100;
  }
  return 44100;
}

/** How many seconds of sound the browser says a file holds; null when it doesn't know. Nothing of it is decoded. */
export function lengthByBrowser(file: Blob): Promise<number | null> {
  const address = URL.createObjectURL(file);
  const player = new Audio();
  return new Promise<number | null>((resolve) => {
    player.onloadedmetadata = () => resolve(Number.isFinite(player.duration) ? player.duration : null);
    player.onerror = () => resolve(null);
    player.preload = "metadata";
    player.src = address;
  }).finally(() => {
    player.removeAttribute("src");
    URL.revokeObjectURL(address);
  });
}

/** Decodes what only the browser can: MP3, Ogg, AAC. Null when it can't either. */
export async function decodeByBrowser(
  file: Blob,
): Promise<{ rate: number; channels: Float32Array<ArrayBuffer>[] } | null> {
  // An MP4 file may have its index at its end.
  const [first, last] = [file.slice(0, 65536), file.slice(Math.max(65536, file.size - 65536))];
  const head = new Uint8Array(await new Blob([first, last]).arrayBuffer());
  const rate = Math.min(192000, Math.max(8000, rateOfHead(head)));
  try {
    const context = new OfflineAudioContext(1, 1, rate);
    const buffer = await context.decodeAudioData(await file.arrayBuffer());
    const channels = Array.from({ length: Math.min(2, buffer.numberOfChannels) }, (_, c) => buffer.getChannelData(c));
    return { rate: buffer.sampleRate, channels };
  } catch {
    return null;
  }
}
