import type { FaceTest } from "../instrument";

/** Whether a test holds at a place on the travel of what it goes by (0 to 1). */
export function passes({ is, share, upTo }: Pick<FaceTest, "is" | "share" | "upTo">, travel: number): boolean {
  switch (is) {
    case "above":
      return travel >= share;
    case "below":
      return travel < share;
    case "between":
      return travel >= Math.min(share, upTo) && travel <= Math.max(share, upTo);
  }
}
