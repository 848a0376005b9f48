/** Writes things one group after the other: what comes while a group is written goes together with the next one. */
export class GroupedWrites<T> {
  private waiting: Map<string, T> | null = null;
  private last: Promise<void> = Promise.resolve();

  /** `write` writes a group, by keys: all of it or nothing. */
  constructor(private readonly write: (group: ReadonlyMap<string, T>) => Promise<void>) {}

  /** Resolves once it is written; where its group could not be, it rejects with the reason, and later groups are tried all the same. */
  add(key: string, thing: T): Promise<void> {
    const group = this.waiting ?? new Map<string, T>();
    group.set(key, thing);
    if (this.waiting) return this.last;
    this.waiting = group;
    this.last = this.last
      .catch(() => {})
      .then(() => {
        this.waiting = null;
        return this.write(group);
      });
    return this.last;
  }
}
