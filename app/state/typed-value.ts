import { formatValue, type ParamSpec, type ParamValue, parseValue, typedBeyond } from "../../core/params";
import { tell } from "./notices";

/** The value of a parameter that was typed; null when it can't be understood. One beyond what there is becomes the nearest that there is, and that is said. */
export function typedValue(spec: ParamSpec, text: string, label: string = spec.label): ParamValue | null {
  const value = parseValue(spec, text);
  if (value !== null && typedBeyond(spec, text))
    tell("warning", `${label} goes no further than ${formatValue(spec, value)}: it is that now.`);
  return value;
}
