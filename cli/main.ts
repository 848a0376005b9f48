import { UsageError } from "./arguments";
import { check } from "./check";
import { convert } from "./convert";
import { cut } from "./cut";
import { impulse } from "./impulse";
import { inspect } from "./inspect";
import { loop } from "./loop";
import { map } from "./map";
import { pitch } from "./pitch";
import { render } from "./render";

const COMMANDS = { cut, pitch, loop, impulse, map, check, convert, render, inspect } as const;
const HELP = `vise <command> [--json]

  cut TAKES… --out DIR               find the sounds of takes, write each as a named file
  pitch FILES…                       measure the pitch of sounds
  loop FILES…                        propose loops with score and reason; --write stores the best
  impulse RECORDED SWEEP OUT.wav     make a room's impulse response of a recorded sweep
  map FILES… --out X.vise            read names, place samples on the keys, write a package; folders too
  check X.vise                       check a map and list its warnings
  convert A B                        write WAV, AIFF or FLAC as one another, .sfz as .vise and back
  render X.vise SONG.mid OUT.wav     play a song through a package
  inspect FILE                       say what a file is`;

async function main(args: readonly string[]): Promise<number> {
  const [name = "", ...rest] = args;
  if (name === "" || name === "help" || name === "--help") {
    console.log(HELP);
    return 0;
  }
  try {
    if (!Object.hasOwn(COMMANDS, name))
      throw new UsageError(`there is no command “${name}”; there are ${Object.keys(COMMANDS).join(", ")}`);
    const result = await COMMANDS[name as keyof typeof COMMANDS](rest);
    console.log(rest.includes("--json") ? JSON.stringify(result.json, null, 1) : result.text);
    return 0;
  } catch (error) {
    console.error(`vise ${name}: ${error instanceof Error ? error.message : String(error)}`);
    return 1;
  }
}

process.exitCode = await main(process.argv.slice(2));
