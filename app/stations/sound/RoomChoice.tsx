import { removeUnit, setRoom, type Unit } from "../../../core/instrument";
import { session } from "../../state/session";
import { useInstrument } from "../../state/use-session";
import { Button } from "../../widgets/Button";
import { Choice } from "../../widgets/Choice";
import { Row } from "../../widgets/ParamControl";

/** Which of the instrument's impulses the recorded room is. */
export function RoomChoice({ unit }: { unit: Unit }) {
  const { samples } = useInstrument();
  const impulses = samples.filter((s) => s.use === "impulse");
  return (
    <Row label="Impulse" help="Rooms are recorded at Take: a sweep or a clap becomes an impulse">
      <Choice
        label="Impulse of the room"
        value={unit.sample ?? ""}
        placeholder="none"
        options={impulses.map((s) => ({ id: s.sha, label: `${s.name} · ${(s.frames / s.rate).toFixed(2)} s` }))}
        onChange={(sha) => {
          const sample = impulses.find((s) => s.sha === sha);
          if (sample) session.commit(setRoom(sample));
        }}
        className="min-w-0 flex-1"
      />
      <Button className="!h-6 px-2" onClick={() => session.commit(removeUnit("effects", unit.id))}>
        Remove
      </Button>
    </Row>
  );
}
