import { Circle } from "lucide-react";
import { Link } from "react-router";
import { useStore } from "zustand";
import { formatNumber } from "../../core/params";
import { recorder } from "../audio/recorder";
import { Hint } from "../widgets/Button";

/** While something is recorded: since when and how loud, at every station; a click leads back to it. */
export function RecordingLight() {
  const recording = useStore(recorder.store, (s) => s.recording);
  const seconds = useStore(recorder.store, (s) => Math.floor(s.seconds));
  const level = useStore(recorder.store, (s) => Math.round(s.level));
  if (!recording) return null;
  return (
    <Hint text={`“${recording.name}” is being recorded; R ends it`}>
      <Link
        to="/take"
        aria-label={`Recording ${recording.name}`}
        className="num inline-flex h-7 shrink-0 items-center gap-1.5 whitespace-nowrap rounded-m bg-vermilion px-2 text-[12px] text-on-spot"
      >
        <Circle size={9} aria-hidden fill="currentColor" />
        {Math.floor(seconds / 60)}:{String(seconds % 60).padStart(2, "0")} · {formatNumber("decibels", level)}
      </Link>
    </Hint>
  );
}
