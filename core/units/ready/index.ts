import type { UnitKind } from "../list";
import * as effects from "./effects";
import type { ReadySetting } from "./ready";
import * as sources from "./sources";
import * as stages from "./stages";

export type { ReadySetting } from "./ready";

const READY: Partial<Record<UnitKind, readonly ReadySetting[]>> = { ...sources, ...stages, ...effects };

/** Settings of a kind of unit that are there from the beginning. */
export const readySettings = (kind: UnitKind): readonly ReadySetting[] => READY[kind] ?? [];
