import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { useStore } from "zustand";
import { createStore } from "zustand/vanilla";
import { decibelsOf } from "../../core/audio";
import { PHRASES, phraseEvents, phraseFor } from "../../core/engine";
import { laidOut, screenFor } from "../../core/face";
import { type FaceSize, type Instrument, listZones, setParams, sizeOfPage } from "../../core/instrument";
import { soundingKeys } from "../../core/mapping";
import { formatNumber } from "../../core/params";
import type { EngineHost } from "../audio/engine-host";
import { reasonOf } from "../basis/reason-of";
import { saveFile } from "../basis/save-file";
import { FacePageView } from "../face/FacePageView";
import { type Change, FaceContext } from "../face/face-world";
import { usePages } from "../face/use-pages";
import { isDrag, newGesture } from "../state/gesture";
import { MidiPanel } from "./MidiPanel";
import { PlayerKeys } from "./PlayerKeys";
import { Snapshots } from "./Snapshots";
import { Turns } from "./turns";

interface PlayerProps {
  readonly instrument: Instrument;
  readonly host: EngineHost;
  /** A phrase, by its id, as a WAV file. */
  readonly bounce: (instrument: Instrument, phrase: string) => Promise<Blob>;
}

/** The single-file player: the instrument's face, a keyboard, and nothing else to learn. */
export function Player({ instrument: given, host, bounce }: PlayerProps) {
  // Items listen to it each by itself.
  const [store] = useState(() => createStore(() => given));
  const [turns] = useState(() => new Turns());
  const instrument = useStore(store);
  const { face, about } = instrument;
  const [phrase, setPhrase] = useState("arpeggio");
  const [busy, setBusy] = useState(false);
  const [unsaved, setUnsaved] = useState<string | null>(null);
  const { playing, status, state, failure, trouble, loaded, wanted } = useStore(host.store);
  useEffect(() => host.show(instrument), [host, instrument]);
  useEffect(() => {
    void host.prepare();
  }, [host]);
  const [instruments] = useState(() => ({ get: store.getState, subscribe: store.subscribe }));
  const { page, over, goTo, close } = usePages(instruments);
  const touched = useRef<string | null>(null);
  const setAll = useCallback(
    (changes: readonly Change[], gesture: string, what: string) => {
      const now = store.getState();
      touched.current = changes[0]?.[0] ?? touched.current;
      turns.before(now, isDrag(gesture) ? gesture : `${gesture} ${what}`);
      store.setState(setParams(now, changes, what).apply(now), true);
    },
    [store, turns],
  );
  const world = useMemo(
    () => ({ instruments, live: true, setAll, page, goTo, host }),
    [instruments, setAll, page, goTo, host],
  );
  const step = useCallback(
    (way: "undo" | "redo") => {
      const next = turns[way](store.getState());
      if (next) store.setState(next, true);
    },
    [turns, store],
  );
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (
        !(event.ctrlKey || event.metaKey) ||
        event.key.toLowerCase() !== "z" ||
        event.target instanceof HTMLInputElement
      )
        return;
      event.preventDefault();
      step(event.shiftKey ? "redo" : "undo");
    };
    addEventListener("keydown", press);
    return () => removeEventListener("keydown", press);
  }, [step]);
  const room = useRoom();
  const shown = useMemo(() => laidOut(face, screenFor(face, room.width)), [face, room.width]);
  const scale = scaleIn(room, sizeOfPage(shown, page));
  const range = useMemo(() => keyRange(given), [given]);
  const chosen = PHRASES.find((p) => p.id === phrase);
  const toggle = () => {
    if (playing) host.stopPhrase();
    else if (chosen)
      void host.playPhrase(
        phraseEvents(phraseFor(chosen, soundingKeys(given)), given.song.tempo),
        (chosen.beats * 60) / given.song.tempo,
      );
  };
  const save = async () => {
    if (!chosen) return;
    setBusy(true);
    setUnsaved(null);
    try {
      saveFile(`${about.name || "phrase"}-${phrase}.wav`, await bounce(instrument, chosen.id));
    } catch (error) {
      setUnsaved(`No file was saved: ${reasonOf(error)}.`);
    } finally {
      setBusy(false);
    }
  };
  const level = decibelsOf(Math.max(status.left, status.right));
  return (
    <div className="player">
      <header>
        <div>
          <h1>{about.name}</h1>
          {about.maker && <p>{about.maker}</p>}
        </div>
        <span className="grow" />
        <button type="button" onClick={toggle} aria-pressed={playing}>
          {playing ? "Stop" : "Play"}
        </button>
        <select aria-label="Phrase" value={phrase} onChange={(event) => setPhrase(event.target.value)}>
          {PHRASES.map((p) => (
            <option key={p.id} value={p.id}>
              {p.label}
            </option>
          ))}
        </select>
        <button
          type="button"
          disabled={busy}
          onClick={() => void save()}
          title="Plays the phrase through the instrument into a WAV file"
        >
          {busy ? "Saving …" : "Save as WAV"}
        </button>
        {face.items.length > 0 && (
          <>
            <button type="button" onClick={() => step("undo")} title="Takes the last turn back (Ctrl Z)">
              Undo
            </button>
            <button type="button" onClick={() => step("redo")} title="Does it again (Ctrl Shift Z)">
              Redo
            </button>
            <Snapshots
              shipped={given}
              now={store.getState}
              show={(next) => {
                turns.before(store.getState(), newGesture());
                store.setState(next, true);
              }}
              told={setUnsaved}
            />
          </>
        )}
        {unsaved !== null && (
          <p role="alert" className="failure">
            {unsaved}
          </p>
        )}
        <output className="num" data-testid="level">
          {state === "failed"
            ? `no sound: ${trouble ?? failure}`
            : state === "running" && loaded < wanted
              ? `loading ${loaded}/${wanted}`
              : formatNumber("decibels", Math.max(-120, level))}
        </output>
      </header>
      {face.items.length > 0 && (
        <FaceContext.Provider value={world}>
          <main className="page">
            <FacePageView face={shown} page={page} over={over} close={close} scale={scale} />
          </main>
        </FaceContext.Provider>
      )}
      <PlayerKeys host={host} low={range.low} high={range.high} answers={range.answers} />
      <MidiPanel host={host} now={store.getState} setAll={setAll} touched={() => touched.current} />
      <footer>
        <p>{about.description}</p>
        {about.licence && <p>{about.licence}</p>}
      </footer>
    </div>
  );
}

/** Space beside the face, and above and below it for all else; how wide the player is, and how much larger a face is shown at the most. */
const MARGIN = 48;
const NARROW = 500;
const NARROW_MARGIN = 24;
const ELSE = 362;
const WIDEST = 1100;
const LARGEST = 1.7;

/** How much room the window has, in pixels. */
function useRoom(): FaceSize {
  const [room, setRoom] = useState(() => ({ width: innerWidth, height: innerHeight }));
  useEffect(() => {
    const measure = () => setRoom({ width: innerWidth, height: innerHeight });
    addEventListener("resize", measure);
    return () => removeEventListener("resize", measure);
  }, []);
  return room;
}

/** How a page is scaled: smaller where the window is narrower, larger where there is room. */
function scaleIn(room: FaceSize, { width, height }: FaceSize): number {
  const margin = room.width < NARROW ? NARROW_MARGIN : MARGIN;
  const across = (Math.min(room.width, WIDEST) - margin) / width;
  const down = Math.max(1, (room.height - ELSE) / height);
  return Math.max(0.1, Math.min(LARGEST, across, down));
}

/** The keys to show: those that sound, at least three octaves, from a C to a B. */
function keyRange(instrument: Instrument): { low: number; high: number; answers: Uint8Array } {
  const answers = new Uint8Array(128);
  for (const zone of listZones(instrument)) answers.fill(1, zone.keyLow, zone.keyHigh + 1);
  const first = answers.indexOf(1);
  if (first < 0) return { low: 48, high: 83, answers };
  const centre = (first + answers.lastIndexOf(1)) / 2;
  const reach = Math.min(30, Math.max(18, (answers.lastIndexOf(1) - first) / 2));
  const low = Math.max(0, Math.floor((centre - reach) / 12) * 12);
  return { low, high: Math.min(127, Math.ceil((centre + reach) / 12) * 12 - 1), answers };
}
