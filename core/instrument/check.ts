import * as yup from "yup";
import { documentShape } from "./document-shape";
import type { Instrument } from "./instrument";
import { Settler } from "./settle";
import { faultText, settleInstrument } from "./settle-document";
import type { Shape } from "./shape";

/** A document from outside, checked: the instrument, or sentences that say where it is wrong. */
export type Checked =
  | { readonly ok: true; readonly instrument: Instrument }
  | { readonly ok: false; readonly problems: readonly string[] };

/** A field of the document as Yup sees it: its shape decides. Yup's own tests of each value took 3 ms a zone. */
const field = (name: string, shape: Shape) =>
  yup
    .mixed()
    .nullable()
    .test({
      name: "shape",
      test: (value, context) => {
        const settler = new Settler();
        settler.at(name, shape, value);
        const { faults } = settler;
        if (faults.length === 0) return true;
        return new yup.ValidationError(faults.map((f) => context.createError({ path: f.path, message: faultText(f) })));
      },
    });

const schema = yup
  .object(Object.fromEntries(Object.entries(documentShape.fields).map(([name, shape]) => [name, field(name, shape)])))
  .noUnknown()
  .required();

/** Checks a document of this version (migrate it first). Nothing is guessed: every value must have its type, lie in its range and be known. */
export function checkInstrument(raw: unknown): Checked {
  try {
    schema.validateSync(raw, { strict: true, abortEarly: false });
  } catch (error) {
    if (error instanceof yup.ValidationError) return { ok: false, problems: error.errors };
    throw error;
  }
  const { instrument, faults } = settleInstrument(raw);
  return instrument && faults.length === 0 ? { ok: true, instrument } : { ok: false, problems: faults.map(faultText) };
}
