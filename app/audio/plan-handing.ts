import { baseValues, compile, type Plan, planDelta, recompile, sameStructure } from "../../core/engine";
import type { Instrument } from "../../core/instrument";
import type { RuleProblem } from "../../core/rules";
import type { ToEngine } from "./protocol";

/** Milliseconds until the engine takes a changed script. */
const RULES_AFTER = 250;
/** A plan that was handed over in so many milliseconds goes at once; others wait a while, at the most so long. */
const LIGHT = 1.5;
const MOST_WAIT = 400;

type Rules = NonNullable<Plan["rules"]>;

const HANGS: RuleProblem = {
  line: null,
  reason: "the sound engine hung while these rules were on. They are off until they are changed",
  stopped: true,
};

interface PlanHandingParts {
  readonly send: (message: ToEngine) => void;
  /** Another instrument is about to be shown: what sounds of the last one ends. */
  readonly leaving: () => void;
  /** The samples of an instrument are wanted. */
  readonly shown: (instrument: Instrument) => void;
  /** Runs a script for the first time where it can do no harm; null: nothing is wrong with it. */
  readonly tryRules: (rules: Rules) => Promise<RuleProblem | null>;
  readonly ruleProblem: (problem: RuleProblem | null) => void;
  /** Whether a script is being tried: nothing is known of it yet. */
  readonly rulesTried: (trying: boolean) => void;
}

/** Whether two documents differ in their rules at the most. */
const sameButRules = (a: Instrument, b: Instrument): boolean =>
  a.id === b.id && (Object.keys(b) as (keyof Instrument)[]).every((key) => key === "rules" || a[key] === b[key]);

/** Hands an instrument over to the audio thread after every edit: base values, or what has become other of the plan, as soon as that is no burden. */
export class PlanHanding {
  private wanted: Instrument | null = null;
  private sent: Instrument | null = null;
  /** The plan that the audio thread has, and what it was made of. */
  private planned: { readonly instrument: Instrument; readonly plan: Plan } | null = null;
  private rulesText = "";
  /** The script under which an audio thread has hung: it isn't handed over again. */
  private distrusted: string | null = null;
  private running = false;
  /** Runs while a change waits to be handed over. */
  private due: ReturnType<typeof setTimeout> | null = null;
  /** Milliseconds that handing over the last plan took. */
  private handing = 0;

  constructor(private readonly parts: PlanHandingParts) {}

  /** A fresh audio thread is there, which knows of nothing. */
  begin(): void {
    this.end();
    this.running = true;
    if (this.wanted) this.hand(this.wanted);
  }

  /** The audio thread is gone. */
  end(): void {
    this.running = false;
    this.sent = null;
    this.planned = null;
    this.lastRules = this.rulesText;
    this.rulesText = "";
    if (this.due !== null) clearTimeout(this.due);
    this.due = null;
  }

  /** Whether the audio thread has a script. */
  get ruled(): boolean {
    return this.rulesText !== "";
  }

  /** The audio thread that is gone has hung, or not: one that hung isn't given the same script again. Whether there was one. */
  distrust(hung: boolean): boolean {
    if (!hung || this.lastRules === "") return false;
    this.distrusted = this.lastRules;
    return true;
  }
  private lastRules = "";

  /** Shows an instrument: a new one, or the same after an edit. */
  show(instrument: Instrument): void {
    this.wanted = instrument;
    const before = this.sent;
    if (!this.running || before === instrument) return;
    if (this.due !== null) {
      // What waits already is the newest when its time comes.
      if (before?.id !== instrument.id) this.settle();
      return;
    }
    const wait = this.waitFor(instrument, before);
    if (wait === 0) this.hand(instrument);
    else this.due = setTimeout(() => this.settle(), wait);
  }

  /** Hands over at once what waits. */
  settle(): void {
    if (this.due === null) return;
    clearTimeout(this.due);
    this.due = null;
    if (this.wanted) this.hand(this.wanted);
  }

  /** Milliseconds for which a change may wait for others, unless a note is played. */
  private waitFor(instrument: Instrument, before: Instrument | null): number {
    if (before?.id !== instrument.id || sameStructure(before, instrument)) return 0;
    // A script that is being typed is seldom whole.
    if (sameButRules(before, instrument)) return RULES_AFTER;
    // A plan of thousands of zones takes longer to hand over than a drag has from one picture to the next.
    return this.handing > LIGHT ? Math.min(MOST_WAIT, this.handing * 16) : 0;
  }

  private hand(instrument: Instrument): void {
    const before = this.sent;
    this.sent = instrument;
    if (before && before.id === instrument.id && sameStructure(before, instrument)) {
      this.parts.send({ type: "base", base: baseValues(instrument) });
      return;
    }
    if (before && before.id !== instrument.id) {
      this.parts.leaving();
      void this.takeRules(null);
    }
    const began = performance.now();
    const plan = this.planned ? recompile(instrument, this.planned) : compile(instrument);
    const delta = planDelta(plan, this.planned?.plan ?? null);
    this.planned = { instrument, plan };
    this.parts.send({ type: "plan", plan: delta });
    this.handing = performance.now() - began;
    void this.takeRules(plan.rules);
    this.parts.shown(instrument);
  }

  /** Hands a script over once its first run, elsewhere, has shown that it can be. */
  private async takeRules(rules: Rules | null): Promise<void> {
    const text = rules ? `${rules.seed}\n${rules.script}` : "";
    if (text === this.rulesText) return;
    this.rulesText = text;
    if (rules) this.parts.rulesTried(true);
    const problem = text === this.distrusted ? HANGS : rules && (await this.parts.tryRules(rules));
    if (this.rulesText !== text) return;
    this.parts.rulesTried(false);
    this.parts.send({ type: "rules", rules: problem ? null : rules });
    this.parts.ruleProblem(problem);
  }
}
