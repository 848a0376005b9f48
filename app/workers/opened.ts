import type { FormatCode } from "../../core/formats";
import type { Marker } from "../../core/instrument";

/** What opening a file as a take came to. */
export type Opened =
  | {
      readonly ok: true;
      readonly sha: string;
      readonly rate: number;
      readonly channels: number;
      readonly frames: number;
      readonly markers: readonly Marker[];
      readonly warnings: readonly string[];
      /** What its maker wrote about it, and when it was recorded (`2026-11-25`); empty where its file says nothing. */
      readonly text: string;
      readonly date: string;
    }
  | { readonly ok: false; readonly code: FormatCode; readonly message: string; readonly salvage: boolean };

/** Longest file that is opened as a take, in seconds. */
const MOST_SECONDS = 3600;

const hours = (seconds: number) => `${Math.floor(seconds / 3600)} h ${Math.floor((seconds % 3600) / 60)} min`;

/** Why a file of so many seconds is not opened; null when it may be. */
export const tooLong = (seconds: number): Opened | null =>
  seconds > MOST_SECONDS
    ? {
        ok: false,
        code: "too-large",
        salvage: false,
        message: `it is ${hours(seconds)} long; takes of up to an hour can be opened. Cut it into parts first`,
      }
    : null;
