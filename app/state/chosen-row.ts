import { create } from "zustand";

/** Which row of which unit's table is looked at, counted from 0. */
export const useChosenRow = create<{ readonly address: string; readonly row: number }>(() => ({ address: "", row: 0 }));

export const chooseRow = (address: string, row: number): void =>
  useChosenRow.setState({ address, row: Math.max(0, row) });

/** The row of a unit that is looked at; the first where another unit's was. */
export const useRowOf = (address: string, count: number): number =>
  useChosenRow((s) => (s.address === address ? Math.min(s.row, Math.max(0, count - 1)) : 0));
