import type { Page } from "playwright-core";

/**
 * Runs in the page before anything else: whatever is connected to the loudspeakers is also connected to a worklet that
 * passes every frame on, with the frame's number, so that tests measure the sound that really comes out.
 */
function tap(): void {
  const chunks: { frame: number; samples: Float32Array }[] = [];
  const code = `registerProcessor("test-tap", class extends AudioWorkletProcessor {
    process([input]) {
      const left = input[0];
      this.port.postMessage({ frame: currentFrame, samples: left ? left.slice() : new Float32Array(128) });
      return true;
    }
  });`;
  const connect = AudioNode.prototype.connect as (this: AudioNode, target: AudioNode, ...places: number[]) => AudioNode;
  const taps = new WeakMap<BaseAudioContext, Promise<AudioWorkletNode>>();
  const tapOf = (context: BaseAudioContext) => {
    let made = taps.get(context);
    if (!made) {
      made = context.audioWorklet.addModule(`data:text/javascript,${encodeURIComponent(code)}`).then(() => {
        const node = new AudioWorkletNode(context, "test-tap", { numberOfOutputs: 0 });
        node.port.onmessage = (event) => chunks.push(event.data);
        return node;
      });
      taps.set(context, made);
    }
    return made;
  };
  AudioNode.prototype.connect = function (this: AudioNode, target: AudioNode, ...places: number[]) {
    // A context that is closed before the tap is there has nothing more to be heard.
    if (target instanceof AudioDestinationNode)
      tapOf(this.context).then(
        (node) => connect.call(this, node),
        (error) => this.context.state !== "closed" && console.error(`the tap can't be made: ${error}`),
      );
    return connect.call(this, target, ...places);
  } as typeof AudioNode.prototype.connect;
  (globalThis as unknown as { heard: typeof chunks }).heard = chunks;
}

/** Lets a page be heard; call it before the page is opened. The page's own policy would keep the tap out. */
export const makeAudible = async (page: Page): Promise<void> => {
  await page.addInitScript(tap);
};

/** What came out of the loudspeakers' left side since the last call, without gaps, up to now. */
export async function heard(page: Page): Promise<{ samples: Float32Array; gaps: number }> {
  const parts = await page.evaluate(() => {
    const { heard: chunks } = globalThis as unknown as { heard: { frame: number; samples: Float32Array }[] };
    const taken = chunks.splice(0);
    let gaps = 0;
    for (let i = 1; i < taken.length; i++) if (taken[i]?.frame !== (taken[i - 1]?.frame ?? 0) + 128) gaps++;
    const all = new Float32Array(taken.length * 128);
    taken.forEach((c, i) => {
      all.set(c.samples, i * 128);
    });
    // Base64 of 32-bit floats: an array of numbers would take seconds.
    const bytes = new Uint8Array(all.buffer);
    let text = "";
    for (let at = 0; at < bytes.length; at += 32768) text += String.fromCharCode(...bytes.subarray(at, at + 32768));
    return { base64: btoa(text), gaps };
  });
  const bytes = Buffer.from(parts.base64, "base64");
  return { samples: new Float32Array(bytes.buffer, bytes.byteOffset, bytes.length / 4).slice(), gaps: parts.gaps };
}

/** Sample rate of the loudspeakers. */
export const rateOf = (page: Page): Promise<number> =>
  page.evaluate(() => {
    // Asked once: a page may have only so many contexts.
    const known = globalThis as unknown as { soundRate?: number };
    if (known.soundRate === undefined) {
      const context = new AudioContext();
      known.soundRate = context.sampleRate;
      void context.close();
    }
    return known.soundRate;
  });

/** Waits until so many seconds have gone by in the audio's own time. */
export async function listen(page: Page, seconds: number): Promise<void> {
  const rate = await rateOf(page);
  await page.evaluate(async (frames) => {
    const { heard: chunks } = globalThis as unknown as { heard: { frame: number }[] };
    const from = chunks.at(-1)?.frame ?? 0;
    await new Promise<void>((resolve) => {
      const look = () => ((chunks.at(-1)?.frame ?? 0) - from >= frames ? resolve() : void setTimeout(look, 20));
      look();
    });
  }, seconds * rate);
}

/** Waits until a quarter of a second of what comes out is below a level: nothing of an earlier note is left. */
export async function untilQuiet(page: Page, level = 1e-4): Promise<void> {
  const rate = await rateOf(page);
  await page.waitForFunction(
    ({ level, chunks }) => {
      const { heard } = globalThis as unknown as { heard: { samples: Float32Array }[] };
      const last = heard.slice(-chunks);
      return last.length === chunks && last.every((c) => c.samples.every((x) => Math.abs(x) < level));
    },
    { level, chunks: Math.ceil((0.25 * rate) / 128) },
    { polling: 50, timeout: 60000 },
  );
}

/** Waits until so many seconds have come out since something above a level began to sound, from the last call of `heard` on. */
export async function untilHeard(page: Page, seconds: number, level = 1e-3): Promise<void> {
  const rate = await rateOf(page);
  await page.waitForFunction(
    ({ level, frames }) => {
      const { heard } = globalThis as unknown as { heard: { samples: Float32Array }[] };
      const from = heard.findIndex((c) => c.samples.some((x) => Math.abs(x) > level));
      return from >= 0 && (heard.length - from) * 128 >= frames;
    },
    { level, frames: seconds * rate },
    { polling: 50, timeout: 60000 },
  );
}

/** Where sound begins: the first frame above a level, −1 for none. */
export const onsetOf = (x: Float32Array, level = 1e-4): number => x.findIndex((v) => Math.abs(v) > level);

export const rms = (x: Float32Array): number => Math.sqrt(x.reduce((sum, v) => sum + v * v, 0) / Math.max(1, x.length));

/** How alike two sounds are, −1 to 1, at the best alignment within a few frames. */
export function alike(a: Float32Array, b: Float32Array, slack = 200): number {
  let best = -1;
  const n = Math.min(a.length, b.length) - slack * 2;
  for (let shift = -slack; shift <= slack; shift++) {
    let ab = 0;
    let aa = 0;
    let bb = 0;
    for (let i = slack; i < n + slack; i += 3) {
      const p = a[i] ?? 0;
      const q = b[i + shift] ?? 0;
      ab += p * q;
      aa += p * p;
      bb += q * q;
    }
    best = Math.max(best, ab / Math.sqrt(aa * bb));
  }
  return best;
}

/** Largest bend (second difference) in each stretch of 256 frames: a click stands out from its neighbours. */
export function bends(x: Float32Array): number[] {
  const out: number[] = [];
  for (let at = 0; at + 258 < x.length; at += 256) {
    let most = 0;
    for (let i = at; i < at + 256; i++)
      most = Math.max(most, Math.abs((x[i] ?? 0) - 2 * (x[i + 1] ?? 0) + (x[i + 2] ?? 0)));
    out.push(most);
  }
  return out;
}

/** Level of a frequency in a sound, in decibels, over a Hann window. */
export function levelOf(x: Float32Array, rate: number, hertz: number): number {
  let re = 0;
  let im = 0;
  for (let i = 0; i < x.length; i++) {
    const v = (x[i] as number) * (0.5 - 0.5 * Math.cos((2 * Math.PI * i) / x.length));
    re += v * Math.cos((2 * Math.PI * hertz * i) / rate);
    im += v * Math.sin((2 * Math.PI * hertz * i) / rate);
  }
  return 20 * Math.log10((4 * Math.hypot(re, im)) / x.length + 1e-9);
}
