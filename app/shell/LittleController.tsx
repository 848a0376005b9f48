import { useState } from "react";
import { useStore } from "zustand";
import { nameOfNote } from "../../core/audio";
import { isBlack } from "../state/key-axis";
import { midiStore, openMidi, receiveMidi } from "../state/midi";
import { Button } from "../widgets/Button";
import { Scale } from "../widgets/Scale";
import { Toggle } from "../widgets/Toggle";

const send = (...bytes: number[]) => receiveMidi(Uint8Array.from(bytes));

/** A stand-in for a MIDI keyboard: its keys, wheels, pedal and pressure send real MIDI bytes down the path of real devices. */
export function LittleController() {
  const { state, inputs, last } = useStore(midiStore);
  const [low, setLow] = useState(60);
  const [velocity, setVelocity] = useState(96);
  const [bend, setBend] = useState(0.5);
  const [wheel, setWheel] = useState(0);
  const [pressure, setPressure] = useState(0);
  const [pedal, setPedal] = useState(false);
  return (
    <div className="w-[520px]">
      <div className="flex h-20 gap-px" role="group" aria-label="Controller keys">
        {Array.from({ length: 25 }, (_, i) => low + i).map((key) => (
          <button
            key={key}
            type="button"
            aria-label={`Controller ${nameOfNote(key)}`}
            className={`flex-1 touch-none rounded-b-[2px] border border-rule-strong active:!bg-leaf ${isBlack(key) ? "h-12 bg-ink" : "bg-sheet"}`}
            onPointerDown={(event) => {
              event.currentTarget.setPointerCapture(event.pointerId);
              send(0x90, key, velocity);
            }}
            onPointerUp={() => send(0x80, key, 0)}
          />
        ))}
      </div>
      <div className="mt-3 grid grid-cols-[80px_1fr_44px_80px_1fr_44px] items-center gap-x-2 gap-y-1">
        <span>Velocity</span>
        <Scale
          label="Controller velocity"
          travel={velocity / 127}
          text={String(velocity)}
          set={(t) => setVelocity(Math.max(1, Math.round(t * 127)))}
        />
        <span className="num text-right">{velocity}</span>
        <span>Bend</span>
        <Scale
          label="Controller bend"
          origin={0.5}
          travel={bend}
          text={`${Math.round((bend - 0.5) * 200)} %`}
          set={(t) => {
            setBend(t);
            const whole = Math.min(16383, Math.round(t * 16384));
            send(0xe0, whole & 127, whole >> 7);
          }}
          reset={() => {
            setBend(0.5);
            send(0xe0, 0, 64);
          }}
        />
        <span className="num text-right">{Math.round((bend - 0.5) * 200)} %</span>
        <span>Wheel</span>
        <Scale
          label="Controller wheel"
          travel={wheel}
          text={String(Math.round(wheel * 127))}
          set={(t) => {
            setWheel(t);
            send(0xb0, 1, Math.round(t * 127));
          }}
        />
        <span className="num text-right">{Math.round(wheel * 127)}</span>
        <span>Pressure</span>
        <Scale
          label="Controller pressure"
          travel={pressure}
          text={String(Math.round(pressure * 127))}
          set={(t) => {
            setPressure(t);
            send(0xd0, Math.round(t * 127));
          }}
        />
        <span className="num text-right">{Math.round(pressure * 127)}</span>
      </div>
      <div className="mt-2 flex items-center gap-4">
        <Toggle
          label="Pedal"
          on={pedal}
          onChange={(on) => {
            setPedal(on);
            send(0xb0, 64, on ? 127 : 0);
          }}
        />
        <Button onClick={() => setLow(Math.max(24, low - 12))}>Octave −</Button>
        <Button onClick={() => setLow(Math.min(96, low + 12))}>Octave +</Button>
        <span className="flex-1" />
        {state === "on" ? (
          <span className="text-ink-soft">
            {inputs.length === 0 ? "no MIDI device is plugged in" : inputs.join(", ")}
          </span>
        ) : state === "unsupported" ? (
          <span className="text-ink-soft">this browser has no Web MIDI</span>
        ) : (
          <Button onClick={() => void openMidi()} hint="Asks the browser for your MIDI devices">
            {state === "refused" ? "Refused; ask again" : "Listen to MIDI devices"}
          </Button>
        )}
        <span className="num text-ink-faint text-s" data-testid="midi-last">
          {last}
        </span>
      </div>
    </div>
  );
}
