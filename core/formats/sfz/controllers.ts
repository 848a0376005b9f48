import type { Curve } from "../../instrument";
import { BUILT_IN, drawn, EXTENDED, STANDING, throughValues } from "./laws";
import type { SfzProgram } from "./program";
import { numberIn } from "./region-reader";

/** A source of modulation by the number of a controller; null for what can't be one here. */
export interface ControllerSource {
  readonly source: string;
  readonly bipolar: boolean;
}

/** A dial that stands for a controller which has a name, or stands somewhere from the beginning. */
export interface ControllerDial {
  readonly controller: number;
  readonly id: string;
  readonly name: string;
  readonly value: number;
}

/** What the controllers of a file are here: those with a name or a place to begin at become macros, the others stay controllers. */
export class Controllers {
  private readonly dials = new Map<number, ControllerDial>();
  private readonly drawings = new Map<string, Curve>();
  private readonly curves: SfzProgram["curves"];
  private readonly control: SfzProgram["control"];
  /** Settings of the `<control>` header that were understood. */
  readonly used = new Set<string>();

  constructor({ curves, control }: SfzProgram) {
    this.curves = curves;
    this.control = control;
  }

  private given(name: string): string | null {
    const opcode = this.control.get(name);
    if (opcode) this.used.add(name);
    return opcode?.value ?? null;
  }

  /** Where a controller stands before it is moved, 0 to 127. */
  standing(controller: number): number {
    const high = numberIn(this.given(`set_hdcc${controller}`) ?? "");
    const set = high === null ? numberIn(this.given(`set_cc${controller}`) ?? "") : high * 127;
    return Math.max(0, Math.min(127, set ?? STANDING[controller] ?? 0));
  }

  sourceOf(controller: number): ControllerSource | null {
    const named = Object.entries(EXTENDED).find(([, number]) => number === controller)?.[0];
    if (named) return { source: named, bipolar: named === "bend" || named === "random" };
    if (controller > 127) return null;
    const standing = this.standing(controller);
    const label = this.given(`label_cc${controller}`);
    if (standing === 0 && (label === null || controller === 1))
      return { source: controller === 1 ? "wheel" : `controllers/${controller}`, bipolar: false };
    const id = `cc${controller}`;
    this.dials.set(controller, {
      controller,
      id,
      name: (label ?? `CC ${controller}`).slice(0, 200),
      value: standing / 127,
    });
    return { source: `macros/${id}`, bipolar: false };
  }

  /** The curve of a number as a function of 0 to 1; a straight line for those that nobody wrote. */
  curve(number: number | null): (x: number) => number {
    const values = number === null ? undefined : this.curves.get(number);
    if (values) return throughValues(values);
    return (number === null ? undefined : BUILT_IN[number]) ?? ((x) => x);
  }

  /** A curve of a function, made once for all regions in which it has the same name. */
  draw(name: string, f: (x: number) => number): Curve {
    const known = this.drawings.get(name) ?? drawn(f);
    this.drawings.set(name, known);
    return known;
  }

  /** The dials that were asked for, by their numbers. */
  list(): ControllerDial[] {
    return [...this.dials.values()].sort((a, b) => a.controller - b.controller);
  }
}
