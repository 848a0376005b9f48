import type { Role } from "../../../../core/mapping";

/** How each meaning of a piece of a name is called and marked: by a word, a line of its own kind, and a colour. */
export const ROLE_LOOKS: Readonly<Record<Role, { readonly label: string; readonly line: string }>> = {
  note: { label: "note", line: "border-cobalt border-b-2 border-solid" },
  strength: { label: "velocity layer", line: "border-leaf border-b-4 border-double" },
  repeat: { label: "repeat", line: "border-ink border-b-2 border-dashed" },
  microphone: { label: "microphone", line: "border-plum border-b-2 border-dotted" },
  trigger: { label: "press or release", line: "border-vermilion border-b-2 border-dotted" },
  group: { label: "group", line: "border-ochre border-b-2 border-dashed" },
};
