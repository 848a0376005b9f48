import { useStore } from "zustand";
import { nameOfNote } from "../../../core/audio";
import { nameOfStrength } from "../../../core/mapping";
import { formatNumber } from "../../../core/params";
import type { SessionView } from "../../audio/shot-session";
import { shotSession, stopRecording } from "../../state/recording";
import { Button } from "../../widgets/Button";
import { cx } from "../../widgets/class-names";

/** What is to be done now, in words. */
function sayState(view: SessionView): string {
  if (!view.shot) return "All entries are done";
  switch (view.state) {
    case "room":
      return "Listening to the room: please be quiet";
    case "cue":
      return "Listen …";
    case "waiting":
      return view.attempt > 0 ? "Once more, please" : "Now";
    case "sounding":
      return "Let it ring …";
    case "judging":
      return "Checking …";
    case "paused":
      return "Paused";
  }
}

/** The entry that is asked for, large enough to be read across a room, and what came of the last one. */
export function ShotStage() {
  const view = useStore(shotSession.store);
  const { shot, shots, verdict, judged } = view;
  const done = shots.filter((s) => s.state !== "open").length;
  const above = view.floor === null ? 0 : Math.max(0, Math.min(1, (view.level - view.floor) / 60));
  return (
    <section
      aria-label="Recording the shot list"
      className="flex min-h-0 flex-1 flex-col items-center justify-center gap-2 p-6 text-center"
    >
      <p className="num text-ink-soft">
        {Math.min(done + 1, shots.length)} of {shots.length}
      </p>
      <p
        data-testid="shot-now"
        className="max-w-full truncate font-display font-semibold leading-none"
        style={{ fontSize: "clamp(72px, 19vh, 190px)" }}
      >
        {shot ? shot.name : "Done"}
      </p>
      {shot && (
        <p className="text-[34px] leading-tight">
          {[nameOfStrength(shot.strength, shot.strengths), `repeat ${shot.repeat}`].filter(Boolean).join(" · ")}
        </p>
      )}
      <p
        role="status"
        className={cx(
          "mt-2 rounded-m px-5 py-1 text-[26px]",
          view.state === "sounding" ? "bg-tint-cobalt" : view.attempt > 0 ? "bg-tint-ochre" : "bg-well",
        )}
      >
        {sayState(view)}
      </p>
      <div className="mt-2 h-3 w-[420px] max-w-full border border-rule bg-well" role="presentation">
        <div className="h-full bg-ink" style={{ width: `${above * 100}%` }} />
      </div>
      <p
        data-testid="shot-last"
        className={cx("min-h-6", verdict && verdict.problems.length > 0 ? "text-ochre" : "text-ink-soft")}
      >
        {verdict && judged
          ? verdict.problems.length > 0
            ? `${judged.name}: ${verdict.problems.join("; ")}`
            : `${judged.name} is good: ${[
                verdict.pitch === null || judged.note === null ? "" : nameOfNote(Math.round(verdict.pitch)),
                `peak ${formatNumber("decibels", verdict.peak)}`,
                view.rang === null ? "" : `rang ${formatNumber("seconds", view.rang)}`,
              ]
                .filter(Boolean)
                .join(", ")}`
          : view.floor === null
            ? ""
            : `the room is at ${formatNumber("decibels", view.floor)}`}
      </p>
      <div className="mt-3 flex flex-wrap justify-center gap-2">
        {view.state === "paused" && shot ? (
          <Button onClick={() => shotSession.resume()}>Go on</Button>
        ) : (
          <Button disabled={!shot} onClick={() => shotSession.pause()}>
            Pause
          </Button>
        )}
        <Button disabled={done === 0} hint="Records the last good one again" onClick={() => shotSession.redo()}>
          Redo the last
        </Button>
        <Button disabled={!shot} onClick={() => shotSession.skip()}>
          Skip
        </Button>
        <Button
          disabled={view.attempt === 0}
          hint="Keeps the last sound although something was said against it"
          onClick={() => shotSession.accept()}
        >
          Take it anyway
        </Button>
        <Button look={shot ? "record" : "primary"} onClick={() => void stopRecording()}>
          {shot ? "Stop" : "Keep the take"}
        </Button>
      </div>
    </section>
  );
}
