import { useMemo } from "react";
import { bindables } from "../../../core/face";
import {
  changeFaceItems,
  type FaceCondition,
  type FaceItem,
  type FaceTest,
  type Instrument,
  newCondition,
  TONES,
  type Tone,
} from "../../../core/instrument";
import { formatNumber, parseNumber } from "../../../core/params";
import { chosenIds, commitFace } from "../../state/face-selection";
import { Button } from "../../widgets/Button";
import { Choice } from "../../widgets/Choice";
import { Row, Section } from "../../widgets/ParamControl";
import { Well } from "../../widgets/Well";

/** How tones are called. */
export const TONE_NAMES: Readonly<Record<Tone, string>> = {
  ink: "Ink",
  soft: "Soft",
  spot: "Spot colour",
  fill: "As the wells",
};

/** The fields by which something is tested: what it depends on, and between which places. */
export function TestRows({
  instrument,
  test,
  name,
  set,
}: {
  instrument: Instrument;
  test: FaceTest;
  /** What is tested, for labels. */
  name: string;
  set: (test: FaceTest) => void;
}) {
  const list = useMemo(() => bindables(instrument, "any", false), [instrument]);
  const place = (id: "share" | "upTo", label: string) => (
    <Well
      label={label}
      text={formatNumber("percent", test[id])}
      width={58}
      align="right"
      onType={(text) => {
        const share = parseNumber("percent", text);
        if (share !== null) set({ ...test, [id]: Math.min(1, Math.max(0, share)) });
        return share !== null;
      }}
      onStep={(steps) => set({ ...test, [id]: Math.min(1, Math.max(0, test[id] + steps * 0.05)) })}
    />
  );
  return (
    <>
      <Row label="Depends on" help="What decides it">
        <Choice
          label={`${name} depends on`}
          value={test.address}
          options={list.map(({ id, label, group }) => ({ id, label, group }))}
          onChange={(address) => set({ ...test, address })}
          className="flex-1"
        />
      </Row>
      <Row label="While it is">
        <Choice
          label={`${name} is`}
          value={test.is}
          options={[
            { id: "above", label: "At least" },
            { id: "below", label: "Below" },
            { id: "between", label: "Between" },
          ]}
          onChange={(is) => set({ ...test, is: is as FaceTest["is"] })}
          className="flex-1"
        />
      </Row>
      <Row label={test.is === "between" ? "From, to" : "Of its travel"}>
        {place("share", "Place on its travel")}
        {test.is === "between" && place("upTo", "Up to place on its travel")}
      </Row>
    </>
  );
}

/** What the chosen items are while something stands above, below or between places: shown, usable, coloured, drawn otherwise. */
export function ConditionSection({ instrument, item }: { instrument: Instrument; item: FaceItem }) {
  const list = useMemo(() => bindables(instrument, "any", false), [instrument]);
  const { when } = item;
  // Of several that are chosen all have the conditions of the one that is looked at.
  const set = (next: readonly FaceCondition[]) =>
    commitFace(changeFaceItems(new Set(chosenIds()), "Set condition", () => ({ when: next })));
  const put = (n: number, change: Partial<FaceCondition>) =>
    set(when.map((condition, i) => (i === n ? { ...condition, ...change } : condition)));
  const { pictures } = instrument.face;
  return (
    <Section title="When">
      {when.map((condition, n) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: conditions have no names, and keep their order
        <div key={n} className="mb-2 border-rule border-l-2 pl-2">
          <TestRows instrument={instrument} test={condition} name="Condition" set={(test) => put(n, test)} />
          <Row label="It is">
            <Choice
              label="Condition does"
              value={condition.does}
              options={[
                { id: "enables", label: "Enabled or dimmed" },
                { id: "shows", label: "Shown or hidden" },
                { id: "colours", label: "Another colour" },
                ...(pictures.length > 0 ? [{ id: "pictures", label: "Another picture" }] : []),
              ]}
              onChange={(does) =>
                put(n, {
                  does: does as FaceCondition["does"],
                  ...(does === "pictures" ? { picture: condition.picture ?? pictures[0]?.id ?? null } : {}),
                })
              }
              className="flex-1"
            />
          </Row>
          {condition.does === "colours" && (
            <Row label="Colour">
              <Choice
                label="Colour then"
                value={condition.tone}
                options={TONES.map((id) => ({ id, label: TONE_NAMES[id] }))}
                onChange={(tone) => put(n, { tone: tone as Tone })}
                className="flex-1"
              />
            </Row>
          )}
          {condition.does === "pictures" && (
            <Row label="Picture">
              <Choice
                label="Picture then"
                value={condition.picture ?? ""}
                options={pictures.map(({ id, name }) => ({ id, label: name }))}
                onChange={(picture) => put(n, { picture })}
                className="flex-1"
              />
            </Row>
          )}
          <Button onClick={() => set(when.filter((_, i) => i !== n))}>Remove the condition</Button>
        </div>
      ))}
      <Row
        label={when.length === 0 ? "Depends on" : "And by"}
        help="What decides whether it is there, usable, or looks otherwise; nothing: it always is the same"
      >
        <Choice
          label={when.length === 0 ? "Condition depends on" : "One more condition depends on"}
          value=""
          placeholder={when.length === 0 ? "always there" : "one more"}
          options={list.map(({ id, label, group }) => ({ id, label, group }))}
          onChange={(address) => set([...when, newCondition(address)])}
          className="flex-1"
        />
      </Row>
    </Section>
  );
}
