import { strToU8 } from "fflate";
import type { Marker } from "../instrument";
import type { Broadcast, WavInstrument, WavSampler } from "./riff-chunks";

/** What a sound file says beside its audio. */
export interface SoundExtras {
  readonly sampler?: WavSampler | null;
  readonly instrument?: WavInstrument | null;
  readonly broadcast?: Broadcast | null;
  /** Written as `cue ` with their names and lengths in a `LIST adtl`. */
  readonly markers?: readonly Marker[];
}

/** A chunk with its head, little-endian, of an even number of bytes. */
export function riffChunk(tag: string, length: number, fill: (view: DataView) => void): Uint8Array {
  const bytes = new Uint8Array(8 + length + (length & 1));
  for (let i = 0; i < 4; i++) bytes[i] = tag.charCodeAt(i);
  new DataView(bytes.buffer).setUint32(4, length, true);
  fill(new DataView(bytes.buffer, 8));
  return bytes;
}

const samplerChunk = (rate: number, { root, fine, loop, further = [] }: WavSampler): Uint8Array => {
  const loops = loop ? [loop, ...further] : [];
  return riffChunk("smpl", 36 + 24 * loops.length, (view) => {
    const u32 = (at: number, x: number) => view.setUint32(at, x, true);
    u32(8, Math.round(1e9 / rate));
    u32(12, root);
    u32(16, Math.min(2 ** 32 - 1, Math.round((fine / 100) * 2 ** 32)));
    u32(28, loops.length);
    loops.forEach(({ mode, start, end }, n) => {
      const at = 36 + 24 * n;
      u32(at, n);
      u32(at + 4, { forward: 0, alternating: 1, backward: 2 }[mode]);
      u32(at + 8, start);
      u32(at + 12, end - 1);
    });
  });
};

const instrumentChunk = (i: WavInstrument): Uint8Array =>
  riffChunk("inst", 7, (view) => {
    [i.root, i.fine, i.gain, i.keyLow, i.keyHigh, i.velLow, i.velHigh].forEach((x, at) => {
      view.setInt8(at, Math.round(x));
    });
  });

function markerChunks(markers: readonly Marker[]): Uint8Array[] {
  const cues = riffChunk("cue ", 4 + markers.length * 24, (view) => {
    view.setUint32(0, markers.length, true);
    markers.forEach((m, i) => {
      const at = 4 + i * 24;
      view.setUint32(at, i + 1, true);
      view.setUint32(at + 4, m.at, true);
      view.setUint32(at + 8, 0x61746164, true);
      view.setUint32(at + 20, m.at, true);
    });
  });
  const names = markers.map((m) => strToU8(m.name));
  const sizes = markers.map((m, i) => {
    const text = 4 + (names[i]?.length ?? 0) + 1;
    return 8 + text + (text & 1) + (m.length > 0 ? 28 : 0);
  });
  const labels = riffChunk("LIST", 4 + sizes.reduce((a, b) => a + b, 0), (view) => {
    const tag = (at: number, text: string) => {
      for (let k = 0; k < 4; k++) view.setUint8(at + k, text.charCodeAt(k));
    };
    tag(0, "adtl");
    let at = 4;
    markers.forEach((m, i) => {
      const name = names[i] ?? new Uint8Array(0);
      tag(at, "labl");
      view.setUint32(at + 4, 4 + name.length + 1, true);
      view.setUint32(at + 8, i + 1, true);
      name.forEach((byte, k) => {
        view.setUint8(at + 12 + k, byte);
      });
      const text = 4 + name.length + 1;
      at += 8 + text + (text & 1);
      if (m.length <= 0) return;
      tag(at, "ltxt");
      view.setUint32(at + 4, 20, true);
      view.setUint32(at + 8, i + 1, true);
      view.setUint32(at + 12, m.length, true);
      tag(at + 16, "rgn ");
      at += 28;
    });
  });
  return [cues, labels];
}

const broadcastChunk = ({ bytes }: Broadcast): Uint8Array =>
  riffChunk("bext", bytes.length, (view) => new Uint8Array(view.buffer, view.byteOffset).set(bytes));

/** The chunks of what a file says beside its audio, each with its head; rate in hertz. */
export const extraChunks = (rate: number, { sampler, instrument, broadcast, markers }: SoundExtras): Uint8Array[] => [
  ...(broadcast ? [broadcastChunk(broadcast)] : []),
  ...(sampler ? [samplerChunk(rate, sampler)] : []),
  ...(instrument ? [instrumentChunk(instrument)] : []),
  ...(markers && markers.length > 0 ? markerChunks(markers) : []),
];
