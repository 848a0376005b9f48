import { defaultFilter } from "cmdk";
import { foundBy } from "../../core/params";

/** What is found by what it is called every day stands below what is found by its own name; letters that are scattered over a name are no find. */
const EVERYDAY = 0.01;
const SCATTERED = 0.3;

/** How well a command's name goes with what somebody types, 0 (not at all) to 1. */
export function rankOf(name: string, typed: string): number {
  const own = defaultFilter(name, typed);
  if (own > SCATTERED) return own;
  return foundBy(name, typed) ? EVERYDAY : 0;
}
