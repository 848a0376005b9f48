import { expect, test } from "@jest/globals";
import { Room } from "./room";

test("as many as there is room for are in at once; what is larger than all of it goes by itself", async () => {
  const most = async (weight: number) => {
    const room = new Room(1);
    let [now, top] = [0, 0];
    await Promise.all(
      Array.from({ length: 20 }, async () => {
        await room.take(weight);
        top = Math.max(top, ++now);
        await new Promise(setImmediate);
        now--;
        room.give(weight);
      }),
    );
    return top;
  };
  expect(await most(0.25)).toBe(4);
  expect(await most(1)).toBe(1);
  expect(await most(3)).toBe(1);
  expect(await most(0)).toBe(20);
});
