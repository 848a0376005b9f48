import { createStore } from "zustand/vanilla";
import type { FoundMode } from "../../core/analysis";
import { hertzOf } from "../../core/audio";
import { changeUnit, findUnit, type Instrument, type Sample, setTable } from "../../core/instrument";
import { plural } from "../../core/params";
import { type TableRow, unitSpec } from "../../core/units";
import { reasonOf } from "../basis/reason-of";
import { Cancelled } from "../workers/audio-worker";
import { hearAs, showEngine } from "./engine";
import { tell } from "./notices";
import { rowsOfModes } from "./rows-of-modes";
import { session } from "./session";
import { withProgress } from "./with-progress";

/** What was found in a sample for a unit's table, before it is taken: it is drawn and heard in place of the table. */
export interface FoundRows {
  /** The instrument, the unit in it, and the sample in which it was found. */
  readonly instrument: string;
  readonly address: string;
  readonly sample: Sample;
  readonly as: "modes" | "partials";
  readonly found: readonly FoundMode[];
  /** The spectrum it was found in, by thirty-sixths of octaves from 20 Hz, and the frequency of the ratio 1. */
  readonly spectrum: Float32Array;
  readonly hertz: number;
  /** Softer ones are left out (decibels). */
  readonly threshold: number;
  readonly harmonic: boolean;
  /** Moment of partials, in seconds; null: over the whole time. */
  readonly at: number | null;
}

const THRESHOLD = -48;

/** Finds rows of tables in samples, and lets them be heard before they are taken. */
class RowFinding {
  readonly store = createStore<{ readonly now: FoundRows | null; readonly busy: boolean }>(() => ({
    now: null,
    busy: false,
  }));

  /** Looks into a sample for a unit. */
  async find(address: string, sample: Sample, change: Partial<Pick<FoundRows, "harmonic" | "at">> = {}): Promise<void> {
    const open = session.instrument;
    const unit = open && findUnit(open, address);
    const table = unit && unitSpec(unit.kind).table;
    if (!open || !unit || !table) return;
    const before = this.store.getState().now;
    const same = before?.address === address && before.sample.sha === sample.sha ? before : null;
    const as = unit.kind === "partials" ? "partials" : "modes";
    const harmonic = change.harmonic ?? same?.harmonic ?? false;
    const at = change.at === undefined ? (same?.at ?? null) : change.at;
    const pitch = sample.pitch === null ? null : hertzOf(sample.pitch);
    this.store.setState({ busy: true });
    try {
      const { found, spectrum } = await withProgress(`Listening to ${sample.name}`, (worker) =>
        worker.rings(sample.sha, {
          as,
          most: table.most,
          at,
          harmonicsOf: harmonic ? (pitch ?? same?.hertz ?? null) : null,
        }),
      );
      // Another unit may be open by now, or another instrument.
      if (session.instrument?.id !== open.id || !findUnit(session.instrument, address)) return;
      if (found.length === 0) {
        tell(
          "warning",
          as === "modes"
            ? `Nothing rings in ${sample.name}: it is too short, or noise alone.`
            : `${sample.name} has no partials${at === null ? "" : " at that moment"}: it is silent, or noise alone.`,
        );
        return;
      }
      this.show({
        instrument: open.id,
        address,
        sample,
        as,
        found,
        spectrum,
        hertz: same?.hertz ?? fundamentalOf(found, pitch, as),
        threshold: same?.threshold ?? THRESHOLD,
        harmonic,
        at,
      });
    } catch (error) {
      if (!(error instanceof Cancelled)) tell("error", `${sample.name} couldn’t be looked at: ${reasonOf(error)}.`);
    } finally {
      this.store.setState({ busy: false });
    }
  }

  private show(now: FoundRows | null): void {
    this.store.setState({ now });
    showEngine();
  }

  /** Counts softer or louder ones in. */
  setThreshold(threshold: number): void {
    const { now } = this.store.getState();
    if (now) this.show({ ...now, threshold: Math.min(0, Math.max(-60, threshold)) });
  }

  /** Puts what is shown into the table. */
  take(): void {
    const { now } = this.store.getState();
    const here = now && session.instrument?.id === now.instrument ? session.instrument : null;
    const unit = now && here && findUnit(here, now.address);
    const table = unit && unitSpec(unit.kind).table;
    if (!now || !unit || !table) {
      this.leave();
      return;
    }
    const rows = rowsShown(now, unit.kind);
    this.store.setState({ now: null });
    session.commit(setTable(now.address, rows, `Take ${plural(rows.length, table.row)} from ${now.sample.name}`));
    showEngine();
    tell("good", `${plural(rows.length, table.row)} taken from ${now.sample.name}.`, session.undoAction());
  }

  /** Leaves the table as it is; of a unit: only where the search was for that one. */
  leave(address?: string): void {
    const { now } = this.store.getState();
    if (now && (address === undefined || now.address === address)) this.show(null);
  }

  /** The instrument with what was found in place of the unit's table. */
  heard(instrument: Instrument): Instrument {
    const { now } = this.store.getState();
    const unit = now?.instrument === instrument.id ? findUnit(instrument, now.address) : null;
    return now && unit
      ? changeUnit(instrument, now.address, (u) => ({ ...u, table: rowsShown(now, unit.kind) }))
      : instrument;
  }
}

/** How far from a sound's measured pitch the mode may be that it is of (a ratio), and how much softer than the loudest. */
const ASTRAY = 2 ** (2.5 / 12);
const SOFT = -20;

/**
 * The frequency of the ratio 1: played at the sample's own key it is to sound as it did. A body's pitch is one of its modes: what was measured of the whole sound may
 * lie beside it. Without a pitch the loudest is the key.
 */
export function fundamentalOf(found: readonly FoundMode[], pitch: number | null, as: FoundRows["as"]): number {
  const loudest = found.reduce((a, b) => (b.level > a.level ? b : a));
  if (pitch === null) return loudest.hertz;
  if (as === "partials") return pitch;
  const near = found.filter((m) => m.level > SOFT && m.hertz < pitch * ASTRAY && m.hertz > pitch / ASTRAY);
  return near.reduce<FoundMode | null>((a, b) => (a && a.level >= b.level ? a : b), null)?.hertz ?? pitch;
}

/** The rows that what was found would make, those below the threshold left out; made once for each. */
export function rowsShown(now: FoundRows, kind: Parameters<typeof rowsOfModes>[0]): readonly TableRow[] {
  const known = made.get(now);
  if (known) return known;
  const rows = rowsOfModes(
    kind,
    now.found.filter((m) => m.level >= now.threshold),
    now.hertz,
  );
  made.set(now, rows);
  return rows;
}

const made = new WeakMap<FoundRows, readonly TableRow[]>();

export const rowFinding = new RowFinding();
hearAs((instrument) => rowFinding.heard(instrument));
