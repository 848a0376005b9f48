/** Frames that are kept: two thirds of a second at 48 kHz. */
const FRAMES = 32768;

/** What was heard last, of both sides. */
export interface Heard {
  readonly left: Float32Array<ArrayBuffer>;
  readonly right: Float32Array<ArrayBuffer>;
  readonly rate: number;
}

/** Listens to what a node puts out, without being in its way. */
export class Listening {
  /** Ends it. */
  stop: () => void = () => {};
  private sides: readonly [AnalyserNode, AnalyserNode] | null = null;
  private splitter: ChannelSplitterNode | null = null;
  private source: AudioNode | null = null;
  private readonly left = new Float32Array(FRAMES);
  private readonly right = new Float32Array(FRAMES);

  /** Listens to one of a node's outputs from now on, in place of another. */
  tap(source: AudioNode, output = 0): void {
    this.untap();
    const { context } = source;
    const splitter = new ChannelSplitterNode(context, { numberOfOutputs: 2 });
    const side = (channel: number): AnalyserNode => {
      const analyser = new AnalyserNode(context, { fftSize: FRAMES });
      splitter.connect(analyser, channel);
      return analyser;
    };
    source.connect(splitter, output);
    this.source = source;
    this.splitter = splitter;
    this.sides = [side(0), side(1)];
  }

  untap(): void {
    if (this.splitter) this.source?.disconnect(this.splitter);
    this.splitter?.disconnect();
    this.source = null;
    this.splitter = null;
    this.sides = null;
  }

  /** The last stretch, in the same arrays each time; null while there is nothing to listen to. */
  read(): Heard | null {
    const [left, right] = this.sides ?? [];
    if (left?.context.state !== "running") return null;
    left.getFloatTimeDomainData(this.left);
    right?.getFloatTimeDomainData(this.right);
    return { left: this.left, right: this.right, rate: left.context.sampleRate };
  }
}
