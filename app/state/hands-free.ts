import { createStore } from "zustand/vanilla";
import { HANDS_FREE, type HandsFree, settleHandsFree } from "../../core/mapping";

const KEY = "vise-hands-free";
/** Instruments of which the settings are remembered. */
const MOST = 50;

type Kept = Readonly<Record<string, HandsFree>>;

function read(): Kept {
  try {
    const raw: unknown = JSON.parse(globalThis.localStorage?.getItem(KEY) ?? "{}");
    return Object.fromEntries(Object.entries(raw ?? {}).map(([id, value]) => [id, settleHandsFree(value)]));
  } catch {
    return {};
  }
}

/** How each instrument's shot list is walked hands-free, by the instrument's id; remembered by the browser. */
export const handsFree = createStore<{ readonly kept: Kept }>(() => ({ kept: read() }));

/** How an instrument's list is walked. */
export const handsFreeOf = ({ kept }: { readonly kept: Kept }, id: string): HandsFree => kept[id] ?? HANDS_FREE;

/** Sets some of it, within its limits. */
export function setHandsFree(id: string, change: Partial<HandsFree>): void {
  const { kept } = handsFree.getState();
  const { [id]: before, ...others } = kept;
  const recent = Object.entries(others).slice(-(MOST - 1));
  const next = { ...Object.fromEntries(recent), [id]: settleHandsFree({ ...(before ?? HANDS_FREE), ...change }) };
  handsFree.setState({ kept: next });
  try {
    globalThis.localStorage?.setItem(KEY, JSON.stringify(next));
  } catch {
    // A store that is full remembers nothing beyond this visit.
  }
}
