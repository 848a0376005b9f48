import { listZones } from "../../core/instrument";
import type { Command } from "../state/commands";
import { engine } from "../state/engine";
import { freshInstrument } from "../state/fresh-instrument";
import { hearAll } from "../state/group-view";
import { settleAxis } from "../state/key-axis";
import { opening } from "../state/open-instrument";
import { EVERY_KEY } from "../state/phrase-ids";
import { partZones } from "../state/selected-zones";
import { session } from "../state/session";
import { compareVersion } from "../state/versions";
import { foldKeys, setTheme, setView, showMeasures, useView } from "../state/view";
import { openReference, useOverlays } from "./overlays";
import { pickSong } from "./pick-song";
import { STATIONS } from "./stations";
import { strikeEnds, togglePhrase } from "./transport";

/** Where the computer keyboard may begin. */
const LOWEST = 0;
const HIGHEST = 108;

const octave = (id: string, label: string, chord: string, by: number): Command => ({
  id,
  label,
  chords: [chord],
  repeats: true,
  run: () => setView(({ octave: at }) => ({ octave: Math.min(HIGHEST, Math.max(LOWEST, at + by)) })),
});

/** Begins to record, or ends it; what it takes is fetched when it is first asked for. */
async function record(): Promise<void> {
  const { toggleRecording } = await import("../state/recording");
  await toggleRecording();
}

/** Every command that is always there. */
export const frameCommands = (navigate: (to: string) => void): Command[] => [
  ...STATIONS.map((s, i) => ({
    id: s.id,
    label: `Go to ${s.label}`,
    chords: [String(i + 1)],
    run: () => navigate(s.path),
  })),
  { id: "library", label: "Go to the library", chords: ["0"], run: () => navigate("/library") },
  { id: "undo", label: "Undo", chords: ["Mod+Z"], repeats: true, run: () => session.undo() },
  { id: "redo", label: "Redo", chords: ["Mod+Shift+Z", "Mod+Y"], repeats: true, run: () => session.redo() },
  { id: "play", label: "Play or stop the phrase", chords: ["Space"], run: togglePhrase },
  {
    id: "every-key",
    label: "Play every key at every velocity",
    run: () => {
      setView({ phrase: EVERY_KEY });
      if (!engine.store.getState().playing) togglePhrase();
    },
  },
  { id: "own-song", label: "Play a MIDI file of your own", run: () => void pickSong() },
  {
    id: "ends",
    label: "Hear both ends, softest and hardest",
    chords: ["Shift+Enter"],
    run: () => {
      const { instrument } = session;
      const zones = instrument ? listZones(instrument) : [];
      const { chosen } = partZones(zones, useView.getState().zoneIds);
      void strikeEnds(chosen.length > 0 ? chosen : zones);
    },
  },
  { id: "silence", label: "All notes off", chords: ["Escape"], run: () => engine.silence() },
  octave("octave-down", "Computer keyboard an octave down", "PageDown", -12),
  octave("octave-up", "Computer keyboard an octave up", "PageUp", 12),
  octave("semitone-down", "Computer keyboard a semitone down", "Shift+PageDown", -1),
  octave("semitone-up", "Computer keyboard a semitone up", "Shift+PageUp", 1),
  { id: "record", label: "Record, or end the recording", chords: ["R"], run: () => void record() },
  {
    id: "compare",
    label: "Hear the version that was looked at, or the present state",
    chords: ["V"],
    run: compareVersion,
  },
  {
    id: "fold-keys",
    label: "Fold the keyboard to a strip, or out again",
    chords: ["Alt+K"],
    run: () => foldKeys(!useView.getState().keysFolded),
  },
  {
    id: "measures",
    label: "Show spectrum, wave, pitch and loudness, or hide them",
    chords: ["Alt+M"],
    run: () => showMeasures(!useView.getState().measures),
  },
  {
    id: "hear-all",
    label: "Reset solo and mute of all groups and microphones",
    why: () =>
      useView.getState().muted.size + useView.getState().alone.size > 0 ? null : "nothing is muted or soloed",
    run: hearAll,
  },
  { id: "all-keys", label: "Show all keys", run: () => setView(settleAxis(0, 128)) },
  {
    id: "new",
    label: "New instrument",
    run: () => {
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
  { id: "midi", label: "On-screen controller and MIDI inputs", run: () => useOverlays.setState({ open: "midi" }) },
  { id: "palette", label: "Find a command", chords: ["Mod+K"], run: () => useOverlays.setState({ open: "palette" }) },
  {
    id: "reference",
    label: "Reference of the control that has the focus, or of all",
    chords: ["F1"],
    run: openReference,
  },
  {
    id: "shortcuts",
    label: "List the shortcuts",
    chords: ["?"],
    run: () => useOverlays.setState({ open: "shortcuts" }),
  },
];
