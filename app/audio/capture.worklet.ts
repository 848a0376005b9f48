declare class AudioWorkletProcessor {
  readonly port: MessagePort;
}
declare function registerProcessor(name: string, processor: unknown): void;

/** Frames in a message to the page: about a fifth of a second at 44.1 kHz. */
const CHUNK = 8192;

/** Passes what comes in to the page, untouched, in chunks of all channels. */
class CaptureProcessor extends AudioWorkletProcessor {
  private chunk: Float32Array[] = [];
  private filled = 0;
  private ended = false;

  constructor() {
    super();
    this.port.onmessage = () => {
      this.flush();
      this.port.postMessage(null);
      this.ended = true;
    };
  }

  private flush(): void {
    if (this.filled === 0) return;
    const parts = this.chunk.map((c) => c.slice(0, this.filled));
    this.filled = 0;
    this.port.postMessage(
      parts,
      parts.map((p) => p.buffer),
    );
  }

  process(inputs: Float32Array[][]): boolean {
    if (this.ended) return false;
    const input = inputs[0];
    if (!input || input.length === 0) return true;
    if (this.chunk.length !== input.length) {
      this.flush();
      this.chunk = input.map(() => new Float32Array(CHUNK));
    }
    const frames = input[0]?.length ?? 0;
    input.forEach((channel, c) => {
      this.chunk[c]?.set(channel, this.filled);
    });
    this.filled += frames;
    if (this.filled >= CHUNK) this.flush();
    return true;
  }
}

registerProcessor("vise-capture", CaptureProcessor);
