// By itself, so that it is fetched when it is first asked for.
export { bothEnds } from "../../core/mapping";
