/**
 * The stand-in for a microphone: a room where somebody plucks the workshop's spokes, over and over, as a MediaStream like a
 * real one's.
 */
export async function benchMic(): Promise<MediaStream> {
  const reply = await fetch("/demo/spokes.wav");
  if (!reply.ok) throw new Error("the bench mic's room is missing: /demo/spokes.wav isn't there");
  const context = new AudioContext({ sampleRate: 44100 });
  const buffer = await context.decodeAudioData(await reply.arrayBuffer());
  const output = new MediaStreamAudioDestinationNode(context, { channelCount: 1 });
  const source = new AudioBufferSourceNode(context, { buffer, loop: true });
  source.connect(output);
  source.start(0, 0.6);
  const [track] = output.stream.getAudioTracks();
  if (!track) throw new Error("the bench mic has no sound");
  const stop = track.stop.bind(track);
  track.stop = () => {
    stop();
    void context.close();
  };
  return output.stream;
}
