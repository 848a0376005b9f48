/** A channel message: status byte and two data bytes (the second 0 where there is but one). */
interface MidiMessage {
  readonly status: number;
  readonly data1: number;
  readonly data2: number;
}

/**
 * The channel messages in a run of MIDI bytes (MIDI 1.0): running status is understood, real-time bytes may stand anywhere,
 * system messages are passed over, and a message that is cut off is left out.
 */
export function midiMessages(bytes: Uint8Array): MidiMessage[] {
  const out: MidiMessage[] = [];
  let status = 0;
  let data: number[] = [];
  for (const byte of bytes) {
    if (byte >= 0xf8) continue;
    if (byte >= 0x80) {
      status = byte >= 0xf0 ? 0 : byte;
      data = [];
      continue;
    }
    if (status === 0) continue;
    data.push(byte);
    const kind = status & 0xf0;
    if (data.length < (kind === 0xc0 || kind === 0xd0 ? 1 : 2)) continue;
    out.push({ status, data1: data[0] ?? 0, data2: data[1] ?? 0 });
    data = [];
  }
  return out;
}
