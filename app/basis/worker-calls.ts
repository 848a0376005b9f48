/** A worker's calls as its page sees them: each answers with a promise. */
export type Calls<W> = {
  readonly [K in keyof W]: W[K] extends (...args: infer A) => infer R ? (...args: A) => Promise<Awaited<R>> : never;
};

/** Thrown to whoever waits for a job that was cancelled. */
export class Cancelled extends Error {}

interface Running<W> {
  readonly remote: Calls<W>;
  readonly end: () => void;
}

/** Begins a worker whose death is told, such as when it could not be loaded or ran out of memory. */
export const workerOf =
  <W>(begin: () => Worker, wrap: (worker: Worker) => unknown) =>
  (failed: (reason: Error) => void): Running<W> => {
    const worker = begin();
    worker.onerror = (event) => failed(new Error(event.message || "its worker could not go on"));
    worker.onmessageerror = () => failed(new Error("its worker's answer could not be read"));
    return { remote: wrap(worker) as Calls<W>, end: () => worker.terminate() };
  };

interface Pending {
  readonly job: object | null;
  readonly start: () => void;
  readonly reject: (reason: Error) => void;
}

/**
 * Calls of a worker that can be ended at any time: the calls of a job that is cancelled are refused, all others that had no answer yet are asked again
 * of the next worker. The worker is begun by the first call.
 */
export class WorkerCalls<W> {
  private running: Running<W> | null = null;
  private readonly pending = new Set<Pending>();
  private readonly jobs = new Map<object, (reason: Error) => void>();

  /** `begin` starts a worker; it is told what to call should that worker die. */
  constructor(private readonly begin: (failed: (reason: Error) => void) => Running<W>) {}

  /** The calls of a job; null: of none. */
  of(job: object | null): Calls<W> {
    return new Proxy({} as Calls<W>, {
      get: (_, name) => (name === "then" ? undefined : (...args: unknown[]) => this.call(job, name as keyof W, args)),
    });
  }

  private call(job: object | null, name: keyof W, args: unknown[]): Promise<unknown> {
    return new Promise((resolve, reject) => {
      const call: Pending = {
        job,
        reject,
        start: () => {
          this.running ??= this.start();
          const { running } = this;
          const answer = (running.remote[name] as (...a: unknown[]) => Promise<unknown>)(...args);
          // An answer that comes from a worker that was ended meanwhile is nobody's any more.
          const settle = (finish: () => void) => {
            if (this.running === running && this.pending.delete(call)) finish();
          };
          answer.then(
            (value) => settle(() => resolve(value)),
            (error) => settle(() => reject(error)),
          );
        },
      };
      this.pending.add(call);
      call.start();
    });
  }

  private start(): Running<W> {
    const running = this.begin((reason) => {
      if (this.running !== running) return;
      // Nobody is left waiting for it; who asks next gets another.
      running.end();
      this.running = null;
      for (const call of [...this.pending]) {
        this.pending.delete(call);
        call.reject(reason);
      }
    });
    return running;
  }

  /** Waits for what a job does, or until it is cancelled. */
  async whileOn<T>(job: object, work: Promise<T>): Promise<T> {
    const cancelled = new Promise<never>((_, reject) => this.jobs.set(job, reject));
    try {
      return await Promise.race([work, cancelled]);
    } finally {
      this.jobs.delete(job);
    }
  }

  /** Ends the worker; whoever still waits for it is refused. */
  end(): void {
    this.running?.end();
    this.running = null;
    for (const call of [...this.pending]) {
      this.pending.delete(call);
      call.reject(new Cancelled("ended"));
    }
  }

  /** Ends the worker for the sake of one job. */
  cancel(job: object): void {
    this.running?.end();
    this.running = null;
    const reason = new Cancelled("cancelled");
    for (const call of [...this.pending]) {
      if (call.job === job) {
        this.pending.delete(call);
        call.reject(reason);
      } else call.start();
    }
    this.jobs.get(job)?.(reason);
  }
}
