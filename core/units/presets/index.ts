import type { UnitKind } from "../list";
import * as effects from "./effects";
import type { Preset } from "./preset";
import * as sources from "./sources";
import * as stages from "./stages";

export type { Preset } from "./preset";

const FACTORY: Partial<Record<UnitKind, readonly Preset[]>> = { ...sources, ...stages, ...effects };

/** Presets of a kind of unit that are there from the beginning: the factory’s. */
export const presetsOf = (kind: UnitKind): readonly Preset[] => FACTORY[kind] ?? [];
