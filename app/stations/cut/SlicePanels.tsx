import { startTransition, useState } from "react";
import type { Slice, Take } from "../../../core/instrument";
import type { Command } from "../../state/commands";
import type { Choosing } from "../../widgets/selection";
import { TabPanel, TabRow, Tabs } from "../../widgets/Tabs";
import { NamePanel } from "./NamePanel";
import { SliceMatrix } from "./SliceMatrix";
import { SliceTable } from "./SliceTable";

const PANELS = [
  { id: "list", label: "List" },
  { id: "matrix", label: "Matrix" },
  { id: "names", label: "Names" },
] as const;
type Panel = (typeof PANELS)[number]["id"];

interface SlicePanelsProps {
  readonly take: Take;
  readonly commands: readonly Command[];
  readonly onSelect: (id: string, how: Choosing, order?: readonly string[]) => void;
  readonly onShow: (slice: Slice) => void;
}

/** The slices of a take below its wave: as a list, as a matrix of notes and strengths, and by their names. */
export function SlicePanels({ take, commands, onSelect, onShow }: SlicePanelsProps) {
  const [panel, setPanel] = useState<Panel>("list");
  return (
    <Tabs shown={panel} onShow={(id) => startTransition(() => setPanel(id))}>
      <TabRow label="Show the slices as" tabs={PANELS} className="border-rule border-b px-3" />
      <TabPanel id="list">
        <SliceTable take={take} commands={commands} onSelect={onSelect} onShow={onShow} />
      </TabPanel>
      <TabPanel id="matrix">
        <SliceMatrix take={take} onSelect={onSelect} />
      </TabPanel>
      <TabPanel id="names">
        <NamePanel take={take} />
      </TabPanel>
    </Tabs>
  );
}
