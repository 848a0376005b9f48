import { alias } from "./alias";
import { allocation } from "./allocation";
import { capture } from "./capture";
import { cells } from "./cells";
import { check } from "./check";
import { convolver } from "./convolver";
import { cutSpeed } from "./cut-speed";
import { edit } from "./edit";
import { editCost, field } from "./edit-cost";
import { face } from "./face";
import type { Figure } from "./figure";
import { handlers } from "./handlers";
import { importing } from "./import";
import { interpolation } from "./interpolation";
import { live, timing } from "./live";
import { load } from "./load";
import { loopDraw } from "./loop-draw";
import { loopQuality, loopSpeed } from "./loops";
import { modes } from "./modes";
import { onsets } from "./onsets";
import { pitch } from "./pitch";
import { placing } from "./placing";
import { sorting } from "./sorting";
import { sources } from "./sources";
import { watchStolen } from "./stolen";
import { swap } from "./swap";
import { units } from "./units";
import { voices } from "./voices";

const BENCHES: Record<string, () => Promise<Figure[]> | Figure[]> = {
  voices,
  handlers,
  units,
  cells,
  sources,
  alias,
  convolver,
  check,
  placing,
  sorting,
  swap,
  live,
  interpolation,
  allocation,
  timing,
  edit,
  "edit-cost": editCost,
  field,
  import: importing,
  load,
  "loop-quality": loopQuality,
  "loop-speed": loopSpeed,
  "loop-draw": loopDraw,
  face,
  modes,
  pitch,
  onsets,
  "cut-speed": cutSpeed,
  capture,
};

const wanted = process.argv.slice(2).filter((a) => !a.startsWith("-"));
for (const name of wanted.length > 0 ? wanted : Object.keys(BENCHES)) {
  const bench = BENCHES[name];
  if (!bench) {
    console.error(`there is no benchmark “${name}”; there are ${Object.keys(BENCHES).join(", ")}`);
    process.exitCode = 1;
    continue;
  }
  const stolen = watchStolen();
  for (const figure of await bench()) console.log(JSON.stringify(figure));
  const share = stolen();
  if (share !== null) console.error(`${name}: others took ${Math.round(share * 100)} % of this machine meanwhile`);
}
