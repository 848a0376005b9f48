export { checkMap } from "./check-map";
export {
  FINDING_KINDS,
  FINDING_TITLES,
  type Finding,
  type FindingKind,
  type Repair,
} from "./finding";
export { repairs } from "./repair";
