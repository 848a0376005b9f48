import { engine } from "../audio/engine";
import { freshInstrument } from "../state/fresh-instrument";
import { settleAxis } from "../state/key-axis";
import { opening } from "../state/open-instrument";
import { toggleRecording } from "../state/recording";
import { session } from "../state/session";
import { compareVersion } from "../state/versions";
import { clearSelection, setTheme, setView, useView } from "../state/view";
import { useOverlays } from "./overlays";
import { STATIONS } from "./stations";
import { togglePhrase } from "./transport";

/** Something that can be done from anywhere. */
export interface Command {
  readonly id: string;
  readonly label: string;
  readonly keys?: string;
  readonly run: () => void;
}

/** Every command that is always there; the palette and the list of shortcuts are made of this. */
export const listCommands = (navigate: (to: string) => void): Command[] => [
  ...STATIONS.map((s, i) => ({
    id: s.id,
    label: `Go to ${s.label}: ${s.question}`,
    keys: String(i + 1),
    run: () => navigate(s.path),
  })),
  { id: "library", label: "Go to the library", keys: "0", run: () => navigate("/library") },
  { id: "undo", label: "Undo", keys: "Ctrl Z", run: () => session.undo() },
  { id: "redo", label: "Redo", keys: "Ctrl Shift Z", run: () => session.redo() },
  { id: "play", label: "Play or stop the phrase", keys: "Space", run: togglePhrase },
  { id: "silence", label: "End all notes", keys: "Escape", run: () => engine.silence() },
  {
    id: "octave-down",
    label: "Computer keyboard an octave down",
    keys: "Z",
    run: () => setView({ octave: Math.max(0, useView.getState().octave - 12) }),
  },
  {
    id: "octave-up",
    label: "Computer keyboard an octave up",
    keys: "X",
    run: () => setView({ octave: Math.min(108, useView.getState().octave + 12) }),
  },
  { id: "record", label: "Record, or end the recording", keys: "R", run: () => void toggleRecording() },
  { id: "compare", label: "Hear the version that was looked at, or the present state", keys: "V", run: compareVersion },
  { id: "all-keys", label: "Show all keys", run: () => setView(settleAxis(0, 128)) },
  {
    id: "new",
    label: "New instrument",
    run: () => {
      clearSelection();
      void opening(async (abandon) => {
        await session.begin(freshInstrument(), abandon);
        navigate("/take");
        return true;
      });
    },
  },
  { id: "day", label: "Day theme", run: () => setTheme("day") },
  { id: "night", label: "Night theme", run: () => setTheme("night") },
  { id: "system", label: "Theme as the system has it", run: () => setTheme("system") },
  { id: "midi", label: "Little controller and MIDI inputs", run: () => useOverlays.setState({ open: "midi" }) },
  { id: "palette", label: "Find a command", keys: "Ctrl K", run: () => useOverlays.setState({ open: "palette" }) },
  { id: "shortcuts", label: "List the shortcuts", keys: "?", run: () => useOverlays.setState({ open: "shortcuts" }) },
];
