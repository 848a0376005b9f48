import { create } from "zustand";

/** Something to tell: what happened, and what one can do about it. */
export interface Notice {
  readonly id: number;
  readonly kind: "good" | "doubt" | "error";
  readonly text: string;
  readonly action: { readonly label: string; readonly run: () => void } | null;
}

let count = 0;

export const useNotices = create<{ readonly notices: readonly Notice[] }>(() => ({ notices: [] }));

/** Tells something; errors stay until they are closed. */
export function tell(kind: Notice["kind"], text: string, action: Notice["action"] = null): void {
  const notice = { id: ++count, kind, text, action };
  useNotices.setState(({ notices }) => ({ notices: [...notices.slice(-3), notice] }));
}

export const closeNotice = (id: number): void =>
  useNotices.setState(({ notices }) => ({ notices: notices.filter((n) => n.id !== id) }));

/** A job that takes a while: its name, the share done, and how to stop it. */
export interface Job {
  readonly label: string;
  readonly share: number;
  readonly cancel: (() => void) | null;
}

export const useJob = create<{ readonly job: Job | null }>(() => ({ job: null }));
export const setJob = (job: Job | null): void => useJob.setState({ job });
