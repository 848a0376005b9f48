import { useEffect, useRef, useState } from "react";
import { type Learned, readLearned, withLearned } from "../../core/face";
import { findParam, type Instrument } from "../../core/instrument";
import type { EngineHost } from "../audio/engine-host";
import { midiMessages } from "../audio/midi-messages";
import { type Bound, boundOf, boundTo, type Change } from "../face/face-world";

const CONTROL = 0xb0;
/** Controllers from here on are commands, such as all notes off. */
const COMMANDS = 120;

const keyOf = ({ id }: Instrument): string => `vise-player-midi:${id}`;

function kept(instrument: Instrument): readonly Learned[] {
  try {
    return readLearned(localStorage.getItem(keyOf(instrument)) ?? "");
  } catch {
    return [];
  }
}

/** Everything that goes along with a parameter: all that its item moves, each over its own range; else itself. */
function boundWith(instrument: Instrument, address: string): readonly Bound[] {
  const item = instrument.face.items.find((i) => i.moves[0]?.address === address);
  if (item) return boundOf(instrument, item);
  const bound = boundTo(instrument, address);
  return bound ? [bound] : [];
}

interface MidiPanelProps {
  readonly host: EngineHost;
  readonly now: () => Instrument;
  readonly setAll: (changes: readonly Change[], gesture: string, what: string) => void;
  /** What was touched on the face last; null: nothing yet. */
  readonly touched: () => string | null;
}

/** MIDI for whoever plays: keyboards are played, and a knob moves what was touched before it was turned, once that is learnt. */
export function MidiPanel({ host, now, setAll, touched }: MidiPanelProps) {
  const [state, setState] = useState<"off" | "on" | "none">("off");
  const [inputs, setInputs] = useState<readonly string[]>([]);
  const [learning, setLearning] = useState(false);
  const [list, setList] = useState(() => kept(now()));
  // Messages come long after this was drawn.
  const latest = useRef({ learning, list, setAll, now, touched, host });
  latest.current = { learning, list, setAll, now, touched, host };
  const store = (next: readonly Learned[]) => {
    setList(next);
    latest.current.list = next;
    try {
      localStorage.setItem(keyOf(now()), JSON.stringify(next));
    } catch {
      // A page from a disk may have no place for it: it holds until the page is closed.
    }
  };
  const receive = (bytes: Uint8Array) => {
    const { learning: learns, list: known, touched: last, host: engine } = latest.current;
    for (const { status, data1, data2 } of midiMessages(bytes)) {
      const isKnob = (status & 0xf0) === CONTROL && data1 < COMMANDS;
      const address = last();
      if (isKnob && learns && address !== null) {
        store(withLearned(known, { controller: data1, address }));
        // More of the knob may come before this is drawn anew.
        latest.current.learning = false;
        setLearning(false);
      }
      const learned = isKnob ? latest.current.list.find((l) => l.controller === data1) : undefined;
      if (!learned) {
        engine.midi(status, data1, data2);
        continue;
      }
      const bounds = boundWith(latest.current.now(), learned.address);
      const travel = data2 / 127;
      latest.current.setAll(
        bounds.map((bound) => [bound.address, bound.atTravel(travel)] as const),
        `knob ${data1}`,
        learned.address,
      );
    }
  };
  const received = useRef(receive);
  received.current = receive;
  const access = useRef<MIDIAccess | null>(null);
  useEffect(
    () => () => {
      for (const input of access.current?.inputs.values() ?? []) input.onmidimessage = null;
    },
    [],
  );
  const open = async () => {
    try {
      const given = await navigator.requestMIDIAccess();
      access.current = given;
      const listen = () => {
        const all = [...given.inputs.values()];
        for (const input of all) input.onmidimessage = ({ data }) => data && received.current(data);
        setInputs(all.map((i) => i.name ?? "unnamed keyboard"));
        setState("on");
      };
      given.onstatechange = listen;
      listen();
    } catch {
      setState("none");
    }
  };
  return (
    <details className="midi">
      <summary>MIDI</summary>
      {state === "off" && (
        <button type="button" onClick={() => void open()}>
          Play by MIDI
        </button>
      )}
      {state === "none" && (
        <p role="alert" className="midi-told">
          This browser gives no MIDI to this page.
        </p>
      )}
      {state === "on" && (
        <>
          <p className="midi-told">
            {inputs.length === 0 ? "No keyboard is plugged in yet." : `Listening to ${inputs.join(", ")}.`}
          </p>
          <button type="button" aria-pressed={learning} onClick={() => setLearning(!learning)}>
            {learning ? "Turn a knob: it will move what you touched last" : "Learn a knob"}
          </button>
        </>
      )}
      {list.length > 0 && (
        <ul aria-label="Knobs that are learnt" className="midi-told">
          {list.map((learned) => (
            <li key={learned.controller}>
              <span className="num">Controller {learned.controller}</span> moves{" "}
              {findParam(now(), learned.address)?.label ?? "what is gone"}{" "}
              <button
                type="button"
                aria-label={`Forget controller ${learned.controller}`}
                onClick={() => store(list.filter((l) => l !== learned))}
              >
                −
              </button>
            </li>
          ))}
        </ul>
      )}
    </details>
  );
}
