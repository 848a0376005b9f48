import { Convolver, compileKernels, startKernels } from "../core/dsp";

const RATE = 48000;
const SECONDS = 10;
const ROOM_SECONDS = 3;
const RUNS = 12;
const KERNELS = startKernels(compileKernels());

const noise = (frames: number, seed: number): Float32Array<ArrayBuffer> => {
  let state = seed;
  return Float32Array.from({ length: frames }, () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 31 - 1;
  });
};
const impulse = [1, 2].map((seed) => noise(RATE * ROOM_SECONDS, seed).map((x, i) => 0.02 * x * Math.exp(-i / RATE)));
const sound = [3, 4].map((seed) => noise(RATE * SECONDS, seed));

async function native(): Promise<number> {
  const context = new OfflineAudioContext(2, RATE * SECONDS, RATE);
  const bufferOf = (channels: readonly Float32Array<ArrayBuffer>[]): AudioBuffer => {
    const buffer = context.createBuffer(2, channels[0]?.length ?? 0, RATE);
    channels.forEach((c, i) => {
      buffer.copyToChannel(c, i);
    });
    return buffer;
  };
  const source = new AudioBufferSourceNode(context, { buffer: bufferOf(sound) });
  const room = new ConvolverNode(context, { buffer: bufferOf(impulse), disableNormalization: true });
  source.connect(room).connect(context.destination);
  source.start();
  const began = performance.now();
  await context.startRendering();
  return (performance.now() - began) / 1000;
}

function ours(): number {
  const room = new Convolver(RATE, KERNELS);
  room.load({ rate: RATE, channels: impulse });
  room.settle();
  room.tune(1, 0);
  const [left, right] = sound.map((c) => c.slice()) as [Float32Array, Float32Array];
  room.process(left, right, 0, 128);
  const began = performance.now();
  for (let at = 128; at < left.length; at += 128) room.process(left, right, at, Math.min(left.length, at + 128));
  return (performance.now() - began) / 1000;
}

/** The fastest of several runs of each, alternating, as seconds for a second of sound. */
async function measure(): Promise<{ ours: number; native: number }> {
  const times = { ours: [] as number[], native: [] as number[] };
  ours();
  for (let run = 0; run < RUNS; run++) {
    times.native.push(await native());
    times.ours.push(ours());
  }
  return { ours: Math.min(...times.ours) / SECONDS, native: Math.min(...times.native) / SECONDS };
}

(globalThis as unknown as { measureConvolver: typeof measure }).measureConvolver = measure;
