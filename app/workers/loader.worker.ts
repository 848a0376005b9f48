import { expose } from "comlink";
import { readSound } from "../../core/formats";
import { SampleLoader } from "../audio/sample-loader";
import { audioBytes } from "../storage/audio-files";

// Apart from the worker that analyses takes: what is played waits for nothing else.
expose(
  new SampleLoader(async (sha) => {
    const bytes = await audioBytes(sha);
    return bytes ? readSound(bytes, { salvage: true }).audio : null;
  }),
);
