import { useState } from "react";
import { useNavigate } from "react-router";
import { useStore } from "zustand";
import { SWEEP } from "../../../core/audio";
import { addSamples, setRoom, type Take, together } from "../../../core/instrument";
import { recorder } from "../../audio/recorder";
import { reasonOf } from "../../basis/reason-of";
import { audition } from "../../state/audio-queries";
import { Errand } from "../../state/errand";
import { tell } from "../../state/notices";
import { gapNote, recordSweep } from "../../state/recording";
import { session } from "../../state/session";
import { useInstrument } from "../../state/use-session";
import { withProgress } from "../../state/with-progress";
import { Button } from "../../widgets/Button";
import { Cancelled } from "../../workers/audio-worker";

/** The room: recorded by a sweep or a clap, and made an impulse for the recorded room among the effects. */
export function RoomPanel({ take }: { take: Take | null }) {
  const samples = useInstrument((i) => i.samples);
  const recording = useStore(recorder.store, (s) => s.recording !== null || s.busy);
  const navigate = useNavigate();
  const [busy, setBusy] = useState(false);
  const impulses = samples.filter((s) => s.use === "impulse");
  const broken = take !== null && take.gaps.length > 0 ? gapNote(take) : null;
  const make = async (way: "sweep" | "clap") => {
    const errand = take && Errand.begin("make an impulse");
    if (!take || !errand) return;
    setBusy(true);
    try {
      const sample = await withProgress(`Making an impulse of ${take.name}`, (worker) =>
        worker.impulse(take, way, `room of ${take.name}`),
      );
      const edit = together(`Make an impulse of ${take.name}`, [addSamples([sample]), setRoom(sample)]);
      if ((await errand.deliver(edit, `The room of ${take.name}`)) !== "open") return;
      tell(
        "good",
        `The room of ${take.name} lasts ${(sample.frames / sample.rate).toFixed(2)} s and is among the effects now.`,
        {
          label: "Hear it at Sound",
          run: () => void navigate("/sound"),
        },
      );
    } catch (error) {
      if (!(error instanceof Cancelled)) tell("error", `No impulse was made: ${reasonOf(error)}.`);
    } finally {
      setBusy(false);
    }
  };
  return (
    <div className="min-h-0 flex-1 overflow-y-auto p-4">
      <ol className="flex max-w-[640px] flex-col gap-4">
        <li>
          <h2 className="mb-1 font-semibold">1 Record the room</h2>
          <p className="mb-2 text-ink-soft">
            Vise plays a sweep of {SWEEP.seconds} s through the loudspeakers and records what the room makes of it; four
            seconds later it stops by itself. Or record a clap with the button above.
          </p>
          <Button look="record" disabled={recording} onClick={() => void recordSweep()}>
            Play the sweep and record
          </Button>
        </li>
        <li>
          <h2 className="mb-1 font-semibold">2 Make an impulse of it</h2>
          <p className="mb-2 text-ink-soft">
            {take ? `From the take “${take.name}”.` : "There is no take yet."} A sweep is deconvolved, a clap is taken
            as it is; both are trimmed where they sink into the noise.
          </p>
          {broken && (
            <p role="alert" className="mb-2 text-vermilion">
              {broken} With a gap in it the sweep would give another room: play it again.
            </p>
          )}
          <div className="flex gap-2">
            <Button disabled={!take || busy || recording || broken !== null} onClick={() => void make("sweep")}>
              It holds the sweep
            </Button>
            <Button disabled={!take || busy || recording} onClick={() => void make("clap")}>
              It holds a clap
            </Button>
          </div>
        </li>
        <li>
          <h2 className="mb-1 font-semibold">3 Play in it</h2>
          {impulses.length === 0 ? (
            <p className="text-ink-soft">The impulses of this instrument will be listed here.</p>
          ) : (
            <ul aria-label="Impulses" className="border-rule border-t">
              {impulses.map((s) => (
                <li key={s.sha} className="flex h-8 items-center gap-2 border-rule border-b">
                  <b className="flex-1 truncate font-semibold">{s.name}</b>
                  <span className="num text-[12px]">{(s.frames / s.rate).toFixed(2)} s</span>
                  <Button className="!h-6 px-2" onClick={() => void audition(s.sha, 0, s.frames)}>
                    Hear
                  </Button>
                  <Button className="!h-6 px-2" onClick={() => session.commit(setRoom(s))}>
                    Use it
                  </Button>
                </li>
              ))}
            </ul>
          )}
        </li>
      </ol>
    </div>
  );
}
