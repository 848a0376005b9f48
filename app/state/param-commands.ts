import { type FoundParam, setParam } from "../../core/instrument";
import { formatValue, type ParamSpec } from "../../core/params";
import type { Command } from "./commands";
import { addFromElsewhere } from "./face-adding";
import { tell } from "./notices";
import { session } from "./session";
import { typedValue } from "./typed-value";

/** What was copied last, for where the browser keeps its clipboard to itself. */
let copied = "";

function set(address: string, value: number | string): void {
  if (session.instrument) session.commit(setParam(session.instrument, address, value));
}

async function paste(address: string, spec: ParamSpec): Promise<void> {
  const there = await navigator.clipboard?.readText().catch(() => "");
  const text = (there || copied).trim();
  const value = text === "" ? null : typedValue(spec, text);
  if (value !== null) set(address, value);
  else tell("error", text === "" ? "Nothing was copied yet." : `“${text.slice(0, 40)}” is no value of ${spec.label}.`);
}

/** What can be done with a parameter wherever its control stands. */
export function paramCommands(address: string, { spec, value }: FoundParam): readonly Command[] {
  return [
    {
      id: "default",
      label: `Back to ${formatValue(spec, spec.default)}`,
      why: () => (value === spec.default ? "it is so" : null),
      run: () => set(address, spec.default),
    },
    {
      id: "copy",
      label: "Copy the value",
      run: () => {
        copied = formatValue(spec, value);
        void navigator.clipboard?.writeText(copied).catch(() => {});
      },
    },
    { id: "paste", label: "Paste a value", run: () => void paste(address, spec) },
    { id: "face", label: "Put it on the face", run: () => addFromElsewhere(address) },
  ];
}
