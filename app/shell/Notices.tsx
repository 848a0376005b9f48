import { CircleAlert, CircleCheck, TriangleAlert, X } from "lucide-react";
import { Progress, Toast } from "radix-ui";
import { useSyncExternalStore } from "react";
import { closeNotice, type Notice, useJobs, useNotices } from "../state/notices";
import { session } from "../state/session";
import { Button } from "../widgets/Button";

const ICONS = { good: CircleCheck, warning: TriangleAlert, error: CircleAlert } as const;
const COLOURS = {
  good: "border-leaf text-leaf",
  warning: "border-ochre text-ochre",
  error: "border-vermilion text-vermilion",
} as const;

/** Milliseconds that a notice stays; it waits while the pointer or the focus is on it. */
const STAYS = 7000;
const STAYS_TO_ACT = 45000;

/** What there is to tell, and the jobs that are under way, above the trace panel. */
export function Notices() {
  const notices = useNotices((n) => n.notices);
  const jobs = useJobs((j) => j.jobs);
  return (
    <Toast.Provider label="Notice" swipeDirection="right">
      {notices.map((notice) => (
        <NoticeCard key={notice.id} notice={notice} />
      ))}
      <div className="pointer-events-none fixed right-3 bottom-[112px] z-30 flex max-h-[calc(100vh-180px)] w-[360px] flex-col justify-end gap-2 overflow-y-auto">
        <Toast.Viewport className="flex flex-col gap-2 outline-none" label="Notices ({hotkey})" />
        {jobs.map((job) => (
          <div key={job.id} className="pointer-events-auto rounded-m border border-cobalt bg-sheet p-3">
            <div className="flex items-center justify-between gap-3">
              <span id={`job-${job.id}`} className="truncate">
                {job.label}
              </span>
              <span className="num shrink-0 text-ink-soft">{Math.round(job.share * 100)} %</span>
              <Button onClick={job.cancel}>Cancel</Button>
            </div>
            <Progress.Root
              value={Math.round(job.share * 100)}
              aria-labelledby={`job-${job.id}`}
              className="mt-2 h-[3px] bg-well"
            >
              <Progress.Indicator className="h-full bg-cobalt" style={{ width: `${job.share * 100}%` }} />
            </Progress.Root>
          </div>
        ))}
      </div>
    </Toast.Provider>
  );
}

/** It is spoken once, when it comes. */
function NoticeCard({ notice }: { notice: Notice }) {
  const { id, kind, text, action: offered } = notice;
  // What can't be done any more, as undoing what others have followed, isn't offered, and keeps nobody waiting.
  const still = useSyncExternalStore(session.store.subscribe, () => offered?.still?.() ?? true);
  const action = still ? offered : null;
  const Icon = ICONS[kind];
  return (
    <Toast.Root
      type={kind === "error" ? "foreground" : "background"}
      duration={kind === "error" ? Number.POSITIVE_INFINITY : action ? STAYS_TO_ACT : STAYS}
      onOpenChange={(open) => !open && closeNotice(id)}
      onSwipeEnd={(event) => event.preventDefault()}
      data-kind={kind}
      className={`pointer-events-auto flex items-start gap-2 rounded-m border bg-sheet p-3 ${COLOURS[kind]}`}
    >
      <Icon size={16} aria-hidden className="mt-px shrink-0" />
      <Toast.Description className="min-w-0 flex-1 break-words text-ink">{text}</Toast.Description>
      {action && (
        <Toast.Action asChild altText={action.label}>
          <Button onClick={action.run}>{action.label}</Button>
        </Toast.Action>
      )}
      <Toast.Close aria-label="Close" className="rounded-m p-0.5 text-ink-soft hover:bg-well">
        <X size={14} aria-hidden />
      </Toast.Close>
    </Toast.Root>
  );
}
