/** Which channels of an input are taken. */
export type ChannelChoice = "stereo" | "mono" | "left" | "right";

/** The channels that were chosen, of those that came in. */
export function chooseChannels(chunk: readonly Float32Array[], choice: ChannelChoice): Float32Array[] {
  const [left = new Float32Array(0), right = left] = chunk;
  switch (choice) {
    case "stereo":
      return [...chunk.slice(0, 2)];
    case "left":
      return [left];
    case "right":
      return [right];
    case "mono":
      return [left.map((x, i) => (x + (right[i] ?? 0)) / 2)];
  }
}
