import { expect, test } from "@jest/globals";
import { answerOf, keptUnder } from "./answer";

const HERE = "http://127.0.0.1:4170";
const get = (path: string, mode = "cors") => ({ method: "GET", url: path.includes("://") ? path : HERE + path, mode });

test("addresses are the server's first, files named by their contents what is kept, the rest nobody's", () => {
  expect(answerOf(get("/loop?zone=a1", "navigate"), HERE)).toBe("server-first");
  expect(answerOf(get("/player-template.html"), HERE)).toBe("server-first");
  expect(answerOf(get("/assets/LoopStation-abc.js"), HERE)).toBe("kept-first");
  expect(answerOf(get("/demo/wheel.flac"), HERE)).toBe("not-ours");
  expect(answerOf({ ...get("/"), method: "POST" }, HERE)).toBe("not-ours");
  expect(answerOf(get("http://elsewhere.example/assets/a.js"), HERE)).toBe("not-ours");
  expect(answerOf(get("blob:http://127.0.0.1:4170/0b5c"), HERE)).toBe("not-ours");
});

test("every station's address is the one page", () => {
  expect(keptUnder(get("/sound?layer=3", "navigate"))).toBe("/");
  expect(keptUnder(get("/icon.svg"))).toBe("/icon.svg");
  expect(keptUnder(get("/player-template.html?now"))).toBe("/player-template.html");
});
