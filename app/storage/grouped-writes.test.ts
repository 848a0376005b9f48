import { expect, test } from "@jest/globals";
import { GroupedWrites } from "./grouped-writes";

/** Writes that end when they are told to. */
function slow() {
  const groups: string[][] = [];
  const ends: ((error: Error | null) => void)[] = [];
  const writes = new GroupedWrites<number>((group) => {
    groups.push([...group].map(([key, value]) => `${key}${value}`));
    return new Promise((resolve, reject) => ends.push((error) => (error ? reject(error) : resolve())));
  });
  const end = async (error: Error | null = null) => {
    ends.shift()?.(error);
    for (let i = 0; i < 5; i++) await Promise.resolve();
  };
  return { groups, end, writes };
}

test("what comes while a group is written goes with the next, each key once, and is answered when it is there", async () => {
  const { groups, end, writes } = slow();
  const done: string[] = [];
  const add = (key: string, value: number) => void writes.add(key, value).then(() => done.push(key));
  add("a", 1);
  await end();
  expect(groups).toEqual([["a1"]]);
  for (const key of ["b", "c", "d"]) add(key, 2);
  add("b", 3);
  await end();
  expect(groups).toEqual([["a1"], ["b3", "c2", "d2"]]);
  expect(done).toEqual(["a"]);
  add("e", 4);
  await end();
  expect(done).toEqual(["a", "b", "c", "d", "b"]);
  expect(groups.at(-1)).toEqual(["e4"]);
  await end();
  expect(done.at(-1)).toBe("e");
});

test("a group that can't be written is told to each of it, and the next is written", async () => {
  const { groups, end, writes } = slow();
  const first = writes.add("a", 1);
  await end();
  const refused = expect(first).rejects.toThrow("disk full");
  const second = writes.add("b", 1);
  await end(new Error("disk full"));
  await refused;
  expect(groups).toEqual([["a1"], ["b1"]]);
  await end();
  await second;
});
