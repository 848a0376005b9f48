import { readdirSync, readFileSync } from "node:fs";
import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { isUnitKind, type UnitKind, unitSpec } from "../units";
import { findParam, listParams } from "./address";
import { newUnit } from "./defaults";
import type { Instrument, Unit } from "./instrument";
import { migrate } from "./migrate";
import { settingOf } from "./setting-of";
import { documentNow, formerly, paramsNow, RENAMED, unitNow } from "./words-of-before";

const FOLDER = new URL("./version-13/", import.meta.url);
const documents = readdirSync(FOLDER).map((file): [string, unknown] => [
  file,
  JSON.parse(readFileSync(new URL(file, FOLDER), "utf8")),
]);

/** Every unit that stands anywhere in a document, and every row of its table, in the order of the text. */
function unitsIn(
  value: unknown,
): { kind: UnitKind; params: Record<string, unknown>; table?: Record<string, unknown>[] }[] {
  if (Array.isArray(value)) return value.flatMap(unitsIn);
  if (typeof value !== "object" || value === null) return [];
  const { kind, params } = value as Record<string, unknown>;
  const own = typeof kind === "string" && isUnitKind(kind) && typeof params === "object" ? [value as never] : [];
  return [...own, ...Object.entries(value).flatMap(([key, inner]) => (key === "params" ? [] : unitsIn(inner)))];
}

const renames = Object.entries(RENAMED).flatMap(([kind, ids]) =>
  Object.entries(ids).map(([before, to]) => [kind as UnitKind, before, to] as const),
);

describe("the list of what was renamed", () => {
  test.each(renames)("%s: %s", (kind, before, { to, choices, turned }) => {
    const { params, table } = unitSpec(kind);
    const specs = [...params, ...(table?.columns ?? [])];
    const spec = specs.find((p) => p.id === to);
    expect(spec).toBeDefined();
    // Else what was migrated once would be taken for what wasn't.
    if (before !== to) expect(specs.map((p) => p.id)).not.toContain(before);
    const ids = spec?.type === "choice" ? spec.choices.map((c) => c.id) : [];
    for (const [old, now] of Object.entries(choices ?? {})) {
      expect(ids).toContain(now);
      expect(ids).not.toContain(old);
    }
    if (turned) expect(spec).toMatchObject({ min: 0, max: 1 });
  });
});

describe("documents of version 13", () => {
  test.each(documents)("%s opens without a fault, and nothing of it is another", (_, raw) => {
    const before = unitsIn(raw);
    const { instrument, faults } = migrate(raw);
    expect(faults).toEqual([]);
    expect(instrument?.version).toBe(14);
    const now = unitsIn(instrument);
    expect(now.map((u) => u.kind)).toEqual(before.map((u) => u.kind));
    before.forEach(({ kind, params, table }, i) => {
      const unit = now[i] as (typeof now)[number];
      const same = (values: Record<string, unknown>, next: Record<string, unknown>) => {
        expect(Object.keys(next)).toHaveLength(Object.keys(values).length);
        for (const [id, value] of Object.entries(values)) {
          const renamed = RENAMED[kind]?.[id];
          const wanted = renamed?.turned ? 1 - Number(value) : (renamed?.choices?.[String(value)] ?? value);
          const found = next[renamed?.to ?? id];
          if (typeof wanted === "number") expect(found).toBeCloseTo(wanted, 9);
          else expect(found).toBe(wanted);
        }
      };
      same(params, unit.params);
      for (const [r, row] of (table ?? []).entries()) same(row, unit.table?.[r] ?? {});
    });
  });

  test.each(documents)("%s: every address that led to a parameter leads to it still", (_, raw) => {
    const { instrument } = migrate(raw);
    const { routes, face } = instrument as Instrument;
    const had = raw as Instrument;
    expect(routes).toHaveLength(had.routes.length);
    const addresses = [
      ...routes.map((r) => r.target),
      ...face.items.flatMap((item) => [...item.moves, ...item.when].map((m) => m.address)),
    ];
    for (const address of addresses)
      expect([address, findParam(instrument as Instrument, address) !== null]).toEqual([address, true]);
    routes.forEach((route, i) => {
      const turned = /micDistance$|mute$/.test(route.target);
      expect(route.amount).toBe((had.routes[i]?.amount ?? 0) * (turned ? -1 : 1));
    });
  });

  test("what is turned round goes from and to the same places on the face", () => {
    const every = documents.find(([file]) => file === "every-unit.json")?.[1];
    const { face } = migrate(every).instrument as Instrument;
    const mute = face.items.find((i) => i.moves[0]?.address.endsWith("strip/mute"));
    expect(mute?.moves[0]?.from).toBeCloseTo(0.9, 9);
    expect(mute?.moves[0]?.to).toBeCloseTo(0.1, 9);
    expect(mute?.when[0]).toMatchObject({ is: "below", share: 0.75 });
    const cutoff = face.items.find((i) => !/mute$|micDistance$/.test(i.moves[0]?.address ?? "mute"));
    expect(cutoff?.moves[0]).toMatchObject({ from: 0.1, to: 0.9 });
  });

  test.each(documents)("%s: what is migrated stays as it is when it is migrated again", (_, raw) => {
    const once = documentNow(raw as never);
    expect(documentNow(once)).toEqual(once);
  });
});

describe("units and values", () => {
  test("of every kind as it is now are what they are", () => {
    for (const kind of new Set(renames.map(([k]) => k))) {
      const unit = newUnit(kind, "u");
      expect(unitNow(unit)).toEqual(unit);
    }
  });

  test("ids of now win over those of before, and nothing throws whatever is given", () => {
    expect(paramsNow("filter", { mode: "low", type: "high", cutoff: 5 })).toEqual({ type: "high", cutoff: 5 });
    fc.assert(
      fc.property(fc.constantFrom(...renames), fc.anything(), ([kind, before], value) => {
        paramsNow(kind, { [before]: value, __proto__: value });
        unitNow({ kind, params: value, table: [value] });
        documentNow({ layers: value, face: value, routes: [value], takes: value, play: value } as never);
      }),
    );
  });

  test("a player's preset of before finds what it was kept of", () => {
    const unit: Unit = newUnit("rotary", "r");
    expect(settingOf(unit, "micDistance")).toBe(0.5);
    expect(formerly("rotary", "micDistance")?.id).toBe("near");
    expect(formerly("rotary", "micDistance")?.now(0.8)).toBeCloseTo(0.2, 9);
    expect(formerly("group", "trigger")?.now("press")).toBe("noteOn");
    expect(formerly("filter", "cutoff")).toBeNull();
    expect(listParams(migrate(documents[0]?.[1]).instrument as Instrument).length).toBeGreaterThan(50);
  });
});
