/** Counts what is read of some objects: how much work a computation does, whatever clock the computer has. For tests. */
export class Reads {
  count = 0;

  /** The same object, of which each reading of a field is counted. */
  of<T extends object>(object: T): T {
    return new Proxy(object, {
      get: (target, name, receiver) => {
        this.count++;
        return Reflect.get(target, name, receiver);
      },
    });
  }

  /** How much was read while something was done. */
  during(what: () => unknown): number {
    const before = this.count;
    what();
    return this.count - before;
  }
}
