import { CircleHelp, LibraryBig, Moon, Piano, Play, Redo2, Square, Sun, Undo2 } from "lucide-react";
import { NavLink } from "react-router";
import { useStore } from "zustand";
import { PHRASES } from "../../core/engine";
import { changeAbout, HIGHEST_TEMPO, LOWEST_TEMPO, setSong } from "../../core/instrument";
import { parseNumber } from "../../core/params";
import { engine } from "../state/engine";
import { tell } from "../state/notices";
import { ownSong } from "../state/own-song";
import { EVERY_KEY, hasSlices, OWN_SONG, SLICES } from "../state/phrase-ids";
import { session } from "../state/session";
import { useInstrument } from "../state/use-session";
import { setTheme, setView, useView } from "../state/view";
import { Button, Hint } from "../widgets/Button";
import { Choice } from "../widgets/Choice";
import { Well } from "../widgets/Well";
import { Meter } from "./Meter";
import { useOverlays } from "./overlays";
import { PartHeard } from "./PartHeard";
import { pickSong } from "./pick-song";
import { RecordingLight } from "./RecordingLight";
import { togglePhrase } from "./transport";
import { Versions } from "./Versions";

const SAVED = { saved: "saved", saving: "saving …", failed: "not saved" } as const;

/** Sets the tempo for which the instrument is made, within what there is; one that isn't is said. */
function setTempo(bpm: number, gesture: string | null = null): void {
  const tempo = Math.min(HIGHEST_TEMPO, Math.max(LOWEST_TEMPO, Math.round(bpm * 100) / 100));
  if (tempo !== bpm && Math.abs(tempo - bpm) > 0.01)
    tell("warning", `A tempo is from ${LOWEST_TEMPO} to ${HIGHEST_TEMPO} bpm: it is ${tempo} now.`);
  session.commit(setSong({ tempo }), gesture);
}

/** What is on screen at every station: name and state, undo, transport, meter. */
export function TopBar() {
  const name = useInstrument((i) => i.about.name);
  const undoName = useStore(session.store, (s) => s.history?.undoName ?? null);
  const redoName = useStore(session.store, (s) => s.history?.redoName ?? null);
  const saved = useStore(session.store, (s) => s.saved);
  const failure = useStore(session.store, (s) => s.failure);
  const playing = useStore(engine.store, (s) => s.playing);
  const { phrase, theme } = useView();
  const tempo = useInstrument((i) => i.song.tempo);
  const sliced = useInstrument((i) => hasSlices(i));
  const own = useStore(ownSong, (s) => s.own);
  const dark = theme === "night" || (theme === "system" && matchMedia("(prefers-color-scheme: dark)").matches);
  return (
    <header className="flex h-[46px] shrink-0 items-center gap-3 border-rule border-b px-3.5">
      <Hint text="The library: all instruments">
        <NavLink to="/library" aria-label="Library" className="rounded-m p-1 hover:bg-well">
          <LibraryBig size={18} aria-hidden />
        </NavLink>
      </Hint>
      <input
        aria-label="Name of the instrument"
        value={name}
        maxLength={200}
        onChange={(event) => session.commit(changeAbout({ name: event.target.value }), "typing")}
        className="field-sizing-content min-w-16 max-w-[240px] rounded-m bg-transparent font-[650] font-display text-[19px] tracking-tight hover:bg-well"
      />
      <span
        data-testid="saved"
        title={failure ?? undefined}
        role={saved === "failed" ? "alert" : undefined}
        className={saved === "failed" ? "max-w-64 truncate text-s text-vermilion" : "text-ink-faint text-s"}
      >
        {SAVED[saved]}
        {failure && `: ${failure}; it is tried again`}
      </span>
      <Versions />
      <span className="flex-1" />
      <div className="flex">
        <Button
          aria-label="Undo"
          hint={
            undoName ? `Undo: ${undoName}` : "Nothing to undo: steps last until the page is left; versions last longer"
          }
          keys="Mod+Z"
          disabled={!undoName}
          onClick={() => session.undo()}
          className="rounded-r-none"
        >
          <Undo2 size={14} aria-hidden />
        </Button>
        <Button
          aria-label="Redo"
          hint={redoName ? `Redo: ${redoName}` : "Nothing to redo"}
          keys="Mod+Shift+Z"
          disabled={!redoName}
          onClick={() => session.redo()}
          className="-ml-px rounded-l-none"
        >
          <Redo2 size={14} aria-hidden />
        </Button>
      </div>
      <div className="flex items-center gap-1.5">
        <Button
          aria-label={playing ? "Stop the phrase" : "Play the phrase"}
          hint={playing ? "Stop" : "Play the phrase in a loop"}
          keys="Space"
          onClick={togglePhrase}
          pressed={playing}
        >
          {playing ? <Square size={12} aria-hidden /> : <Play size={13} aria-hidden />}
        </Button>
        <Choice
          label="Phrase"
          value={phrase}
          options={[
            ...PHRASES,
            { id: EVERY_KEY, label: "Every key, every velocity" },
            ...(sliced || phrase === SLICES ? [{ id: SLICES, label: "Slices in their order" }] : []),
            ...(own ? [{ id: OWN_SONG, label: own.name }] : []),
            { id: "open", label: "A MIDI file of your own …" },
          ]}
          onChange={(id) => (id === "open" ? void pickSong() : setView({ phrase: id }))}
          className="w-[132px]"
        />
        <Well
          label="Tempo"
          text={`${Number(tempo.toFixed(2))} bpm`}
          width={66}
          onType={(text) => {
            const bpm = parseNumber("count", text.replace(/\s*bpm$/i, ""));
            if (bpm === null) return false;
            setTempo(bpm);
            return true;
          }}
          onStep={(steps) => setTempo(tempo + steps, "tempo")}
        />
      </div>
      <span className="flex-1" />
      <RecordingLight />
      <PartHeard />
      <Meter />
      <Button
        look="quiet"
        aria-label="On-screen controller and MIDI"
        hint="On-screen controller and MIDI inputs"
        onClick={() => useOverlays.setState({ open: "midi" })}
        className="px-1.5"
      >
        <Piano size={15} aria-hidden />
      </Button>
      <Button
        look="quiet"
        aria-label={dark ? "Day theme" : "Night theme"}
        hint={dark ? "Day theme" : "Night theme"}
        onClick={() => setTheme(dark ? "day" : "night")}
        className="-ml-2 px-1.5"
      >
        {dark ? <Sun size={15} aria-hidden /> : <Moon size={15} aria-hidden />}
      </Button>
      <Button
        look="quiet"
        aria-label="Shortcuts"
        hint="Shortcuts"
        keys="?"
        onClick={() => useOverlays.setState({ open: "shortcuts" })}
        className="-ml-2 px-1.5"
      >
        <CircleHelp size={15} aria-hidden />
      </Button>
    </header>
  );
}
