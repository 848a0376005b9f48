import { useMemo } from "react";
import { noteOfSlice } from "../../../core/formats";
import type { Slice, Take } from "../../../core/instrument";
import { oddOnes } from "../../../core/mapping";
import type { Command } from "../../state/commands";
import { useView } from "../../state/view";
import { DataTable } from "../../widgets/DataTable";
import type { Choosing } from "../../widgets/selection";
import { columnsOf } from "./slice-columns";
import { type NumberedSlice, remarkOf } from "./slice-order";

interface SliceTableProps {
  readonly take: Take;
  readonly commands: readonly Command[];
  readonly onSelect: (id: string, how: Choosing, order?: readonly string[]) => void;
  readonly onShow: (slice: Slice) => void;
}

const idOf = ({ slice }: NumberedSlice): string => slice.id;
const isOut = ({ slice }: NumberedSlice): boolean => !slice.keep;

/** The slices as a list that can be sorted by any column and typed into. */
export function SliceTable({ take, commands, onSelect, onShow }: SliceTableProps) {
  const sliceIds = useView((v) => v.sliceIds);
  const { id, rate, slices } = take;
  const rows = useMemo(() => {
    const odd = oddOnes(slices, noteOfSlice);
    return slices.map((slice, i) => ({ slice, number: i + 1, remark: remarkOf(slice, odd.get(slice.id)) }));
  }, [slices]);
  const columns = useMemo(() => columnsOf({ id, rate }), [id, rate]);
  return (
    <DataTable
      label="Slices"
      rows={rows}
      columns={columns}
      idOf={idOf}
      selected={sliceIds}
      onSelect={onSelect}
      onOpen={({ slice }) => onShow(slice)}
      commands={commands}
      sortedBy="number"
      faded={isOut}
    />
  );
}
