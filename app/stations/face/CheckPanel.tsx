import { type FaceDoubt, repairAll } from "../../../core/face";
import { choose, commitFace } from "../../state/face-selection";
import { setView } from "../../state/view";
import { Button } from "../../widgets/Button";

/** What is wrong with the face, each with what puts it right. */
export function CheckPanel({ doubts, empty }: { doubts: readonly FaceDoubt[]; empty: boolean }) {
  const all = repairAll(doubts);
  if (doubts.length === 0)
    return (
      <p className="text-ink-soft">
        {empty
          ? "Nothing stands on the face yet."
          : "No warnings: all controls move something, can be reached, touched and read."}
      </p>
    );
  return (
    <>
      {all && doubts.filter((d) => d.repair).length > 1 && (
        <Button className="mb-3 self-start" onClick={() => commitFace(all)}>
          Repair all
        </Button>
      )}
      <ul aria-label="What is wrong with the face" className="min-h-0 flex-1 overflow-auto">
        {doubts.map((doubt) => (
          <li key={doubt.id} className="mb-2 border-rule border-b pb-2">
            <button
              type="button"
              className="mb-1 block w-full text-left hover:text-cobalt"
              onClick={() => {
                if (doubt.page !== null) setView({ facePage: doubt.page });
                if (doubt.item !== null) choose([doubt.item]);
              }}
            >
              {doubt.text}
            </button>
            {doubt.repair && (
              <Button onClick={() => doubt.repair && commitFace(doubt.repair.edit)}>{doubt.repair.label}</Button>
            )}
          </li>
        ))}
      </ul>
    </>
  );
}
