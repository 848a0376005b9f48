import { reasonOf as why } from "../basis/reason-of";
import type { ChannelChoice } from "./channel-choice";

/** What is recorded from: the bench mic, or a device by its id (`default` for the system's own). */
export interface InputChoice {
  readonly device: string;
  readonly channels: ChannelChoice;
  readonly rate: number;
}

/** An input's stream, and the context of its own rate that captures it. */
export interface OpenInput {
  readonly stream: MediaStream;
  readonly context: AudioContext;
}

/** Opens a device without any voice processing, at its own rate. */
export async function openDevice(choice: InputChoice): Promise<OpenInput> {
  const stream = await navigator.mediaDevices.getUserMedia({
    audio: {
      ...(choice.device === "default" ? {} : { deviceId: { exact: choice.device } }),
      echoCancellation: false,
      noiseSuppression: false,
      autoGainControl: false,
      channelCount: { ideal: 2 },
      sampleRate: { ideal: choice.rate },
    },
  });
  const rate = stream.getAudioTracks()[0]?.getSettings().sampleRate ?? choice.rate;
  return { stream, context: new AudioContext({ sampleRate: rate }) };
}

/**
 * How many frames an input has delivered so far (Media Capture and Streams Extensions); null where the browser doesn't say, or not
 * at the rate at which they are captured.
 */
export function deliveredBy(stream: MediaStream | null, rate: number): number | null {
  const track: (MediaStreamTrack & { readonly stats?: { readonly deliveredFrames?: number } }) | undefined =
    stream?.getAudioTracks()[0];
  return track?.getSettings().sampleRate === rate ? (track.stats?.deliveredFrames ?? null) : null;
}

/** Why an input can't be had, for people. */
export function reasonOf(error: unknown): string {
  if (error instanceof DOMException && error.name === "NotAllowedError")
    return "the browser was not allowed to use the microphone";
  if (error instanceof DOMException && (error.name === "NotFoundError" || error.name === "OverconstrainedError"))
    return "no microphone was found; the bench mic is always there";
  return why(error);
}
