import type { DragEvent } from "react";
import { NavLink, useNavigate } from "react-router";
import { useStore } from "zustand";
import { grouped } from "../../core/params";
import { addFromElsewhere, PARAM_DRAG } from "../state/face-adding";
import { proposals } from "../state/proposal";
import { useInstrumentParts } from "../state/use-session";
import { cx } from "../widgets/class-names";
import { type Progress, STATIONS } from "./stations";

const FILLS: Record<Progress, string> = {
  empty: "var(--ground)",
  half: "linear-gradient(90deg, var(--ink) 50%, var(--ground) 50%)",
  full: "var(--ink)",
};
const WORDS: Record<Progress, string> = { empty: "empty", half: "begun", full: "done" };

/** The line with nine stops: how far each station is, and what it holds or doubts. */
export function Rail() {
  // As texts, so that the rail is drawn anew only when one of them is another.
  const states = useInstrumentParts((i) =>
    STATIONS.map((station) => {
      const { text, progress } = station.state(i);
      return `${progress}\n${text}`;
    }),
  );
  const navigate = useNavigate();
  // A parameter that is dragged here by its name becomes a control on the face.
  const onto = {
    onDragOver: (event: DragEvent) => {
      if (event.dataTransfer.types.includes(PARAM_DRAG)) event.preventDefault();
    },
    onDrop: (event: DragEvent) => {
      const address = event.dataTransfer.getData(PARAM_DRAG);
      if (address === "") return;
      event.preventDefault();
      addFromElsewhere(address);
      void navigate("/face");
    },
  };
  const waiting = useStore(proposals, (s) => s.proposal?.placement.zones.length ?? 0);
  return (
    <nav
      aria-label="Stations"
      className="w-[150px] shrink-0 overflow-y-auto overflow-x-hidden border-rule border-r pt-3.5 pl-3.5"
    >
      {STATIONS.map((station, i) => {
        const [progress, text] = (states[i] ?? "empty\n").split("\n") as [Progress, string];
        return (
          <NavLink
            key={station.id}
            to={station.path}
            title={`${station.question} (${i + 1})`}
            className="group relative grid h-[52px] grid-cols-[22px_1fr] items-center"
            {...(station.id === "face" ? onto : {})}
          >
            {({ isActive }) => (
              <>
                <span
                  aria-hidden
                  className={cx(
                    "absolute left-[7px] w-[2px] bg-rule-strong",
                    i === 0 ? "top-[26px] bottom-0" : i === STATIONS.length - 1 ? "top-0 bottom-[26px]" : "inset-y-0",
                  )}
                />
                <span
                  title={WORDS[progress]}
                  className="z-10 size-4 rounded-full border-2 border-ink"
                  style={{ background: FILLS[progress] }}
                />
                <span
                  className={cx("-mr-px rounded-l-m px-2 py-1", isActive ? "bg-ink text-sheet" : "group-hover:bg-well")}
                >
                  <b className="block font-semibold text-[14px] leading-tight">{station.label}</b>
                  <span className={cx("num block truncate text-s", isActive ? "opacity-80" : "text-ink-soft")}>
                    {station.id === "map" && waiting > 0 ? `${grouped(waiting)} to place` : text}
                  </span>
                </span>
              </>
            )}
          </NavLink>
        );
      })}
    </nav>
  );
}
