import { create } from "zustand";

/** Something to tell: what happened, and what one can do about it. */
export interface Notice {
  readonly id: number;
  readonly kind: "good" | "warning" | "error";
  readonly text: string;
  readonly action: NoticeAction | null;
}

/** What one can do about something. */
interface NoticeAction {
  readonly label: string;
  readonly run: () => void;
  /** Whether there is still any sense in it, by the open instrument as it is now; where nothing is said there is. */
  readonly still?: () => boolean;
}

/** Errors without anything to do about them that are shown at once. */
const MOST_ERRORS = 2;

/** Notices that are shown at once. */
const MOST = 4;

let count = 0;

export const useNotices = create<{ readonly notices: readonly Notice[] }>(() => ({ notices: [] }));

/** Tells something; errors stay until they are closed. */
export function tell(kind: Notice["kind"], text: string, action: Notice["action"] = null): void {
  const notice = { id: ++count, kind, text, action };
  // Errors stay until they are closed; of the others the newest are shown.
  useNotices.setState(({ notices }) => {
    // What is told again stands there once, as the newest.
    const others = notices.filter((n) => n.kind !== kind || n.text !== text);
    // What one can still act on is what one came for: it goes before what only tells.
    const kept = others.filter((n, i) => n.kind === "error" || n.action !== null || i >= others.length - 3);
    const errors = kept.filter((n) => n.kind === "error" && n.action === null);
    const over = new Set(errors.slice(0, Math.max(0, errors.length - MOST_ERRORS)));
    const standing = kept.filter((n) => !over.has(n));
    // An error that can be acted on may hold what somebody has made: others make room.
    let most = standing.length + 1 - MOST;
    return { notices: [...standing.filter((n) => n.kind === "error" || most-- <= 0), notice] };
  });
}

export const closeNotice = (id: number): void =>
  useNotices.setState(({ notices }) => ({ notices: notices.filter((n) => n.id !== id) }));

/** A job that takes a while: its name, the share done, and how to stop it. */
interface Job {
  readonly id: number;
  readonly label: string;
  readonly share: number;
  readonly cancel: () => void;
}

/** The jobs that are under way, the oldest first. */
export const useJobs = create<{ readonly jobs: readonly Job[] }>(() => ({ jobs: [] }));

/** Share of a job by which its progress is shown to go on. */
const LEAST = 0.01;

/** Shows a job until it ends. */
export function beginJob(label: string, cancel: () => void): { show: (share: number) => void; end: () => void } {
  const id = ++count;
  const change = (next: (job: Job) => Job | null) =>
    useJobs.setState(({ jobs }) => ({ jobs: jobs.flatMap((job) => (job.id === id ? (next(job) ?? []) : [job])) }));
  useJobs.setState(({ jobs }) => ({ jobs: [...jobs, { id, label, share: 0, cancel }] }));
  let shown = 0;
  const show = (share: number) => {
    // Less than that can't be seen, and each change is drawn anew.
    if (Math.abs(share - shown) < LEAST && share < 1) return;
    shown = share;
    change((job) => ({ ...job, share }));
  };
  return { show, end: () => change(() => null) };
}
