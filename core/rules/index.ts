export { EXAMPLE_SCRIPT } from "./prelude";
export { type RuleProblem, RuleScript, Sandbox } from "./sandbox";
