import { type DragEvent, useMemo, useState } from "react";
import { Outlet, useNavigate } from "react-router";
import { reasonOf } from "../basis/reason-of";
import { useCommands } from "../state/commands";
import { filesOfDrop } from "../state/dropped-files";
import { tell } from "../state/notices";
import { useOpeningReport } from "../state/opening-report";
import { useView } from "../state/view";
import { cx } from "../widgets/class-names";
import { Address } from "./address";
import { frameCommands } from "./commands";
import { Keybed } from "./Keybed";
import { useKeyboard } from "./keyboard";
import { Later } from "./Later";
import { Notices } from "./Notices";
import { useOverlays } from "./overlays";
import { Rail } from "./Rail";
import { TopBar } from "./TopBar";
import { TracePanel } from "./TracePanel";
import { LookingBar } from "./Versions";
import { Wheels } from "./Wheels";

/** The frame around every station; files can be dropped anywhere on it. */
export function Frame() {
  const navigate = useNavigate();
  useCommands(
    "Everywhere",
    useMemo(() => frameCommands((to) => void navigate(to)), [navigate]),
  );
  useKeyboard();
  const folded = useView((v) => v.keysFolded);
  const measured = useView((v) => v.measures);
  const overlay = useOverlays((o) => o.open !== null);
  const reported = useOpeningReport((r) => r.report !== null || r.choice !== null);
  const [dropping, setDropping] = useState(false);
  const over = (event: DragEvent) => {
    if (!event.dataTransfer.types.includes("Files")) return;
    // Whatever lies under it may take it itself.
    const taken = event.defaultPrevented;
    event.preventDefault();
    setDropping(!taken);
  };
  const drop = (event: DragEvent) => {
    if (!event.dataTransfer.types.includes("Files")) return;
    setDropping(false);
    if (event.defaultPrevented) return;
    event.preventDefault();
    // Whatever opens files is fetched with the first of them.
    void Promise.all([filesOfDrop(event.dataTransfer), import("../state/importing")])
      .then(([files, { openDropped }]) => openDropped(files, (to) => void navigate(to)))
      .catch((error: unknown) => tell("error", `Nothing was opened: ${reasonOf(error)}.`));
  };
  return (
    <div
      className="flex h-full flex-col"
      onDragOver={over}
      onDragLeave={(event) => {
        // Only where it leaves the window: every child that it passes leaves as well.
        if (!event.currentTarget.contains(event.relatedTarget as Node | null)) setDropping(false);
      }}
      onDrop={drop}
    >
      <TopBar />
      <LookingBar />
      <div className="flex min-h-0 flex-1">
        <Rail />
        <Outlet />
      </div>
      {measured && <Later part="measures" />}
      <footer className={cx("flex shrink-0 border-rule border-t", folded ? "h-[30px]" : "h-[104px]")}>
        <Wheels />
        <Keybed />
        <TracePanel />
      </footer>
      <Address />
      <Notices />
      {overlay && <Later part="overlays" />}
      {reported && <Later part="reports" />}
      {dropping && (
        <div className="pointer-events-none fixed inset-3 z-50 grid place-items-center rounded-m border-2 border-cobalt border-dashed bg-tint-cobalt opacity-90">
          <p className="font-display text-xl">
            Drop samples or folders of them to place them, recordings to cut them, a package or an SFZ file with its
            samples to open it
          </p>
        </div>
      )}
    </div>
  );
}
