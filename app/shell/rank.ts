import { defaultFilter } from "cmdk";
import { foundBy } from "../../core/params";

/** What is found by what it is called every day stands below what is found by its own name. */
const EVERYDAY = 0.01;

/** How well a command's name goes with what somebody types, 0 (not at all) to 1. */
export const rankOf = (name: string, typed: string): number =>
  defaultFilter(name, typed) || (foundBy(name, typed) ? EVERYDAY : 0);
