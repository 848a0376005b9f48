import type { ReactNode } from "react";
import { findUnit } from "../../core/instrument";
import { useInstrument } from "../state/use-session";
import { useView } from "../state/view";
import { Split } from "../widgets/Split";
import { UnitPanel } from "./UnitPanel";

/** What a station shows, and below it the unit that was pinned at Sound, as long as one is. */
export function WithPinned({ id, children }: { id: string; children: ReactNode }) {
  const wanted = useView((v) => v.pinnedUnit);
  const pinned = useInstrument((i) => (wanted !== null && findUnit(i, wanted) ? wanted : null));
  if (pinned === null) return children;
  return (
    <Split
      id={`pinned-${id}`}
      label="Height of the pinned unit"
      as="rows"
      size="36%"
      least={[180, 130]}
      first={children}
      second={<UnitPanel key={pinned} address={pinned} />}
    />
  );
}
