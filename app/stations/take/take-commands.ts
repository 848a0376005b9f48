import type { Take } from "../../../core/instrument";
import { audition } from "../../state/audio-queries";
import type { Command } from "../../state/commands";
import { engine } from "../../state/engine";
import { dropTake } from "../../state/files";
import { setView } from "../../state/view";

/** What can be done with a take. */
export const takeCommands = (take: Take, navigate: (to: string) => void): readonly Command[] => [
  { id: "hear", label: "Hear it", run: () => void audition(take.sha, 0, take.frames) },
  { id: "hush", label: "Stop hearing it", chords: ["Escape"], run: () => engine.hush() },
  {
    id: "cut",
    label: "Cut it",
    run: () => {
      setView({ takeId: take.id, sliceIds: new Set() });
      navigate("/cut");
    },
  },
  { id: "remove", label: "Remove", run: () => dropTake(take.id, take.name) },
];
