import { expect, test } from "@jest/globals";
import { leadsOut } from "./face-pictures";

test.each([
  ["fill", "url(#a)", false],
  ["fill", 'url("#a")', false],
  ["fill", "url( '#a' )", false],
  ["style", "fill: url(\"#a\"); stroke: url('#b')", false],
  ["fill", "url(http://a.example/x.svg#a)", true],
  ["fill", 'url("//a.example/x")', true],
  ["style", "fill: url(#a); background: url( data:text/html,x )", true],
  ["xlink:href", "#part", false],
  ["href", "https://a.example", true],
  ["href", "data:image/png;base64,AAAA", false],
  ["href", "data:text/html;base64,AAAA", true],
  ["d", "M0 0", false],
] as const)("%s=%s leads out of the drawing: %s", (name, value, out) => {
  expect(leadsOut(name, value)).toBe(out);
});
