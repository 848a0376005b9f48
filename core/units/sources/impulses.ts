import { PITCH } from "../pitch";
import { both, type UnitSpec } from "../unit";

/** Band-limited impulses at the pitch of the key. */
export const impulses = {
  kind: "impulses",
  role: "source",
  label: "Impulses",
  help: "A click in every cycle, with all partials as strong as each other: to excite what rings.",
  places: ["source"],
  params: PITCH,
  cell: {
    kernel: "impulses",
    pitched: true,
    tune: (_read, out, pitch) => {
      both(out, 0, 2 ** pitch);
      both(out, 1, 1);
    },
  },
} as const satisfies UnitSpec;
