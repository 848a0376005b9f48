import { type Sample, setUnitSample, type Unit } from "../../core/instrument";
import { session } from "../state/session";
import { useInstrument } from "../state/use-session";
import { Choice } from "../widgets/Choice";
import { Row } from "../widgets/ParamControl";

/** Longest sound of the instrument that is offered as a room, in seconds. */
const LONGEST_ROOM = 10;

/** Which sound the recorded room is: one of the instrument's impulses, or any other of its samples. */
export function RoomChoice({ address, unit }: { address: string; unit: Unit }) {
  const samples = useInstrument((i) => i.samples);
  const room = (s: Sample) => s.use === "impulse";
  const possible = samples.filter((s) => room(s) || s.frames / s.rate <= LONGEST_ROOM);
  const impulses = [...possible].sort((a, b) => Number(room(b)) - Number(room(a)));
  return (
    <Row label="Impulse" help="Rooms are recorded at Take: a sweep or a clap becomes an impulse">
      <Choice
        label="Impulse of the room"
        value={unit.sample ?? ""}
        placeholder="none"
        options={impulses.map((s) => ({
          id: s.sha,
          label: `${s.name} · ${(s.frames / s.rate).toFixed(2)} s`,
          group: room(s) ? "Rooms" : "Samples",
        }))}
        onChange={(sha) => {
          const sample = impulses.find((s) => s.sha === sha);
          if (sample) session.commit(setUnitSample(address, sample));
        }}
        className="min-w-0 flex-1"
      />
    </Row>
  );
}
