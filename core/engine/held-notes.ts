const MOST = 16;
/** Keys of all channels: one key on two channels is two keys. */
const KEYS = 16 * 128;

/** Which sounding notes each key (channel × 128 + key) holds: their serial numbers, and how much later than the key each of them began (frames). */
export class HeldNotes {
  /** Most notes that one key can hold. */
  static readonly MOST = MOST;
  private readonly serials = new Int32Array(KEYS * MOST);
  private readonly delays = new Float64Array(KEYS * MOST);
  private readonly counts = new Uint8Array(KEYS);

  add(key: number, serial: number, delay: number): void {
    const count = this.counts[key] as number;
    if (count >= MOST) return;
    this.serials[key * MOST + count] = serial;
    this.delays[key * MOST + count] = delay;
    this.counts[key] = count + 1;
  }

  count(key: number): number {
    return this.counts[key] as number;
  }

  serial(key: number, index: number): number {
    return this.serials[key * MOST + index] as number;
  }

  delay(key: number, index: number): number {
    return this.delays[key * MOST + index] as number;
  }

  forget(key: number): void {
    this.counts[key] = 0;
  }

  clear(): void {
    this.counts.fill(0);
  }
}
