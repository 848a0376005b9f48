import { useQuery, useQueryClient } from "@tanstack/react-query";
import { recorder } from "../../audio/recorder";
import { keepRecording } from "../../state/recording";
import {
  forgetRecording,
  type RecordingInfo,
  readFacts,
  readRecording,
  unfinishedRecordings,
} from "../../storage/recordings";
import { Button } from "../../widgets/Button";
import { dateText } from "../../widgets/date-text";

const KEY = ["unfinished-recordings"];

/** Offers what was recorded when the tab closed or crashed meanwhile. */
export function Recovery() {
  const client = useQueryClient();
  const found = useQuery({ queryKey: KEY, queryFn: unfinishedRecordings });
  const done = () => client.invalidateQueries({ queryKey: KEY });
  const recover = async (info: RecordingInfo) => {
    const channels = await readRecording(info);
    if ((channels[0]?.length ?? 0) > 0) {
      const { slices, ...flaws } = await readFacts(info.id);
      await keepRecording({ info: { ...info, name: `${info.name} (recovered)` }, channels, ...flaws }, slices);
    }
    await forgetRecording(info.id);
    await done();
  };
  return found.data
    ?.filter((info) => !recorder.began(info.id))
    .map((info) => (
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
        <Button onClick={() => void forgetRecording(info.id).then(done)}>Throw away</Button>
      </div>
    ));
}
