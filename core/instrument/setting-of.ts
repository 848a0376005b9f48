import type { ParamValue } from "../params";
import type { Unit } from "./instrument";

/** What a unit's parameter is set to, where its id is known only when it runs; undefined where the unit doesn't say. */
export const settingOf = ({ params }: Pick<Unit, "params">, id: string): ParamValue | undefined =>
  (params as Readonly<Record<string, ParamValue | undefined>>)[id];
