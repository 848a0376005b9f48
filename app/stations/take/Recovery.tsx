import { useQuery, useQueryClient } from "@tanstack/react-query";
import { recordingLock } from "../../audio/recorder";
import { reasonOf } from "../../basis/reason-of";
import { tell } from "../../state/notices";
import { keepRecording } from "../../state/recording";
import { tabs, takeLock } from "../../storage/instrument-locks";
import {
  forgetRecording,
  type RecordingInfo,
  readFacts,
  throwAway,
  unfinishedRecordings,
} from "../../storage/recordings";
import { Button } from "../../widgets/Button";
import { dateText } from "../../widgets/date-text";

const KEY = ["unfinished-recordings"];

/** Recordings that nobody is making any more: what a page records now, this one or another, it holds a lock on. */
async function cutShort(): Promise<RecordingInfo[]> {
  const found: RecordingInfo[] = [];
  for (const info of await unfinishedRecordings()) if (!(await tabs.isHeld(recordingLock(info.id)))) found.push(info);
  return found;
}

/** Offers what was recorded when the tab closed or crashed meanwhile. */
export function Recovery() {
  const client = useQueryClient();
  const found = useQuery({ queryKey: KEY, queryFn: cutShort, staleTime: 0 });
  const done = () => {
    tabs.say({ type: "recordings" });
    return client.invalidateQueries({ queryKey: KEY });
  };
  // Whatever is done to one is done by one page only.
  const alone = async (info: RecordingInfo, what: () => Promise<boolean>) => {
    const held = await takeLock(recordingLock(info.id));
    if (!held) return;
    try {
      if (await what()) await forgetRecording(info.id);
    } catch (error) {
      const why = reasonOf(error);
      tell("error", `${info.name} was not recovered: ${why}. It stays here.`);
    } finally {
      held.release();
      await done();
    }
  };
  const takeBack = (info: RecordingInfo) =>
    alone(info, async () => {
      await throwAway(info.id, false);
      return false;
    });
  const recover = (info: RecordingInfo) =>
    alone(info, async () => keepRecording({ ...info, name: `${info.name} (recovered)` }, await readFacts(info.id)));
  return found.data?.map((info) => (
    <div
      key={info.id}
      role="alert"
      className="flex shrink-0 items-center gap-3 border-rule border-b bg-tint-ochre px-3.5 py-1.5"
    >
      <span className="flex-1">
        “{info.name}” was being recorded when Vise closed, {dateText(info.started)}. What came in until then is here.
      </span>
      <Button look="primary" onClick={() => void recover(info)}>
        Recover it
      </Button>
      <Button
        hint="It stays in this browser for 30 days, out of sight"
        onClick={() =>
          void alone(info, async () => {
            await throwAway(info.id, true);
            tell("good", `${info.name} was deleted.`, { label: "Undo", run: () => void takeBack(info) });
            return false;
          })
        }
      >
        Delete
      </Button>
    </div>
  ));
}
