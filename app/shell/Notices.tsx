import { CircleAlert, CircleCheck, TriangleAlert, X } from "lucide-react";
import { useEffect } from "react";
import { closeNotice, type Notice, useJobs, useNotices } from "../state/notices";
import { Button } from "../widgets/Button";

const ICONS = { good: CircleCheck, doubt: TriangleAlert, error: CircleAlert } as const;
const COLOURS = {
  good: "border-leaf text-leaf",
  doubt: "border-ochre text-ochre",
  error: "border-vermilion text-vermilion",
} as const;

/** What there is to tell, and the job that is under way, above the trace panel. */
export function Notices() {
  const notices = useNotices((n) => n.notices);
  const jobs = useJobs((j) => j.jobs);
  return (
    <div
      className="pointer-events-none fixed right-3 bottom-[112px] z-30 flex w-[360px] flex-col gap-2"
      aria-live="polite"
    >
      {notices.map((notice) => (
        <NoticeCard key={notice.id} notice={notice} />
      ))}
      {jobs.map((job) => (
        <div key={job.id} role="status" className="pointer-events-auto rounded-m border border-cobalt bg-sheet p-3">
          <div className="flex items-center justify-between gap-3">
            <span className="truncate">
              {job.label} <span className="num text-ink-soft">{Math.round(job.share * 100)} %</span>
            </span>
            <Button onClick={job.cancel}>Cancel</Button>
          </div>
          <div className="mt-2 h-[3px] bg-well">
            <div className="h-full bg-cobalt" style={{ width: `${job.share * 100}%` }} />
          </div>
        </div>
      ))}
    </div>
  );
}

function NoticeCard({ notice }: { notice: Notice }) {
  const { id, kind, text, action } = notice;
  useEffect(() => {
    if (kind === "error") return;
    const timer = setTimeout(() => closeNotice(id), action ? 12000 : 7000);
    return () => clearTimeout(timer);
  }, [id, kind, action]);
  const Icon = ICONS[kind];
  return (
    <div
      role={kind === "error" ? "alert" : "status"}
      className={`pointer-events-auto flex items-start gap-2 rounded-m border bg-sheet p-3 ${COLOURS[kind]}`}
    >
      <Icon size={16} aria-hidden className="mt-px shrink-0" />
      <p className="min-w-0 flex-1 break-words text-ink">{text}</p>
      {action && (
        <Button
          onClick={() => {
            closeNotice(id);
            action.run();
          }}
        >
          {action.label}
        </Button>
      )}
      <button
        type="button"
        aria-label="Close"
        className="rounded-m p-0.5 text-ink-soft hover:bg-well"
        onClick={() => closeNotice(id)}
      >
        <X size={14} aria-hidden />
      </button>
    </div>
  );
}
