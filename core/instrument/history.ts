import type { Edit } from "./edit";
import type { Instrument } from "./instrument";
import type { Fault } from "./settle";
import { settleEdit } from "./settle-document";

interface Step {
  /** Its own number, which it keeps when it is undone and done again. */
  readonly serial: number;
  readonly name: string;
  readonly merge: string | null;
  readonly before: Instrument;
}

/** Most steps that are kept; structure is shared, so a step costs only what it changed. */
const MOST_STEPS = 500;

let steps = 0;

/** An instrument with its past and future: an immutable value. */
export class History {
  private constructor(
    readonly present: Instrument,
    private readonly past: readonly Step[],
    private readonly future: readonly Step[],
    /** What the last step's gesture took away that could have been done again: it is there again when the gesture is given up. */
    private readonly cleared: readonly Step[] = [],
  ) {}

  static of(instrument: Instrument): History {
    return new History(deepFreeze(instrument), [], []);
  }

  get undoName(): string | null {
    return this.past.at(-1)?.name ?? null;
  }
  get redoName(): string | null {
    return this.future.at(-1)?.name ?? null;
  }

  /**
   * The history after an edit; one that changes nothing is no step. Its values are settled as the document's shape has them. `gesture` joins it with the step before where both have
   * the same merge key and gesture. An edit that can't be settled without loss changes nothing; `refuse` is told why.
   */
  commit(edit: Edit, gesture: string | null = null, refuse: (faults: readonly Fault[]) => void = () => {}): History {
    const merge = edit.merge && gesture !== null ? `${gesture}|${edit.merge}` : null;
    const last = this.past.at(-1);
    const joins = merge !== null && last?.merge === merge;
    const { instrument: next, refused } = settleEdit(joins && edit.anew ? last.before : this.present, edit);
    if (refused.length > 0) refuse(refused);
    if (refused.length > 0 || isSame(next, this.present)) return this;
    // Back where the gesture began: nothing has been done.
    if (joins && isSame(next, last.before)) return new History(last.before, this.past.slice(0, -1), this.cleared);
    deepFreeze(next);
    if (joins) {
      return new History(next, [...this.past.slice(0, -1), { ...last, name: edit.name }], [], this.cleared);
    }
    const step: Step = { serial: ++steps, name: edit.name, merge, before: this.present };
    return new History(next, [...this.past, step].slice(-MOST_STEPS), [], merge === null ? [] : this.future);
  }

  /** Number of the step that undoing would take back; null where there is none. */
  get lastStep(): number | null {
    return this.past.at(-1)?.serial ?? null;
  }

  /** The history as it was before a gesture, if that is what was done last. */
  abandon(gesture: string): History {
    const last = this.past.at(-1);
    if (!last?.merge?.startsWith(`${gesture}|`)) return this;
    return new History(last.before, this.past.slice(0, -1), this.cleared);
  }

  /** Every state that undoing and redoing can lead to, the present one included. */
  states(): Instrument[] {
    return [...this.past, ...this.future].map((step) => step.before).concat(this.present);
  }

  undo(): History {
    const step = this.past.at(-1);
    if (!step) return this;
    return new History(step.before, this.past.slice(0, -1), [
      ...this.future,
      { ...step, merge: null, before: this.present },
    ]);
  }

  redo(): History {
    const step = this.future.at(-1);
    if (!step) return this;
    return new History(step.before, [...this.past, { ...step, before: this.present }], this.future.slice(0, -1));
  }
}

/** Whether two values hold the same, looked at only where they aren't the very same. */
function isSame(a: unknown, b: unknown): boolean {
  if (Object.is(a, b)) return true;
  if (typeof a !== "object" || typeof b !== "object" || a === null || b === null) return false;
  if (Array.isArray(a) || Array.isArray(b)) {
    if (!Array.isArray(a) || !Array.isArray(b) || a.length !== b.length) return false;
    for (let i = 0; i < a.length; i++) if (a[i] !== b[i] && !isSame(a[i], b[i])) return false;
    return true;
  }
  const keys = Object.keys(a);
  return (
    keys.length === Object.keys(b).length &&
    keys.every((key) => Object.hasOwn(b, key) && isSame((a as never)[key], (b as never)[key]))
  );
}

function deepFreeze<T>(value: T): T {
  if (typeof value !== "object" || value === null || Object.isFrozen(value)) return value;
  Object.freeze(value);
  if (Array.isArray(value)) for (let i = 0; i < value.length; i++) deepFreeze(value[i]);
  else for (const key in value) deepFreeze(value[key]);
  return value;
}
