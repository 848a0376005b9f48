import { makeRoom, makeSweep, SWEEP, seededRandom } from "../../core/audio";

/** A stroke that the bench mic is asked for: which note, how loud (1 is full scale), how long from now. */
export interface Stroke {
  readonly note: number;
  readonly level: number;
  readonly after: number;
}

/** The stand-in for a microphone: a room with somebody in it, as a MediaStream like a real one's. */
export interface BenchMic {
  readonly stream: MediaStream;
  /** Somebody strikes one thing. It ends the playing that goes on by itself. */
  readonly strike: (stroke: Stroke) => void;
  /** Whoever plays by himself stops. */
  readonly hush: () => void;
  /** Vise's sweep sounds in the room. */
  readonly sweep: () => void;
}

/** Level of the room. */
const NOISE = 0.0005;

async function fetched(context: AudioContext, path: string): Promise<AudioBuffer> {
  const reply = await fetch(path);
  if (!reply.ok) throw new Error(`the bench mic's room is missing: ${path} isn't there`);
  return context.decodeAudioData(await reply.arrayBuffer());
}

/**
 * A room where somebody plucks the workshop's spokes over and over, until strokes are asked for one by one. It sounds in the
 * context that captures it: two contexts have a clock each, and wherever one was late the room would fall silent for 10 ms.
 */
export async function benchMic(context: AudioContext): Promise<BenchMic> {
  const [spokes, stroke] = await Promise.all([
    fetched(context, "/demo/spokes.wav"),
    fetched(context, "/demo/stroke.wav"),
  ]);
  const output = new MediaStreamAudioDestinationNode(context, { channelCount: 1 });
  const source = new AudioBufferSourceNode(context, { buffer: spokes, loop: true });
  source.connect(output);
  source.start(0, 0.6);
  let alone = true;
  /** The room goes on by itself, without anybody playing. */
  const hushed = () => {
    if (!alone) return;
    alone = false;
    source.stop();
    const random = seededRandom(12);
    const noise = context.createBuffer(1, rate * 4, rate);
    noise.copyToChannel(
      Float32Array.from({ length: rate * 4 }, () => (random() * 2 - 1) * NOISE),
      0,
    );
    const room = new AudioBufferSourceNode(context, { buffer: noise, loop: true });
    room.connect(output);
    room.start();
  };
  const rate = context.sampleRate;
  const peak = stroke.getChannelData(0).reduce((most, x) => Math.max(most, Math.abs(x)), 0);
  return {
    stream: output.stream,
    hush: hushed,
    strike: ({ note, level, after }) => {
      hushed();
      const struck = new AudioBufferSourceNode(context, { buffer: stroke, playbackRate: 2 ** ((note - 60) / 12) });
      // An input clips at full scale, whatever comes in.
      const input = new WaveShaperNode(context, { curve: Float32Array.of(-1, 0, 1) });
      struck
        .connect(new GainNode(context, { gain: level / peak }))
        .connect(input)
        .connect(output);
      struck.start(context.currentTime + after);
    },
    sweep: () => {
      hushed();
      const sweep = context.createBuffer(1, SWEEP.seconds * rate, rate);
      sweep.copyToChannel(makeSweep(SWEEP, rate), 0);
      const room = makeRoom(rate, 0.7, 9);
      const impulse = context.createBuffer(1, room.length, rate);
      impulse.copyToChannel(room, 0);
      const played = new AudioBufferSourceNode(context, { buffer: sweep });
      played
        .connect(new ConvolverNode(context, { buffer: impulse, disableNormalization: true }))
        .connect(new GainNode(context, { gain: 0.16 }))
        .connect(output);
      played.start(context.currentTime + 0.2);
    },
  };
}
