/** @jest-environment @happy-dom/jest-environment */
import { afterEach, expect, jest, test } from "@jest/globals";
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { Well } from "./Well";

afterEach(cleanup);

function well(understood = true) {
  const onType = jest.fn((_: string) => understood);
  const onStep = jest.fn();
  render(<Well label="Cutoff" text="800 Hz" onType={onType} onStep={onStep} />);
  const input = screen.getByLabelText<HTMLInputElement>("Cutoff");
  const type = (text: string) => {
    input.focus();
    fireEvent.change(input, { target: { value: text } });
  };
  return { onType, onStep, input, type };
}

test("Escape gives up what was typed: nothing of it is taken, and the value stands there again", () => {
  const { onType, input, type } = well();
  type("440");
  fireEvent.keyDown(input, { key: "Escape" });
  expect(document.activeElement).not.toBe(input);
  expect(onType).not.toHaveBeenCalled();
  expect(input.value).toBe("800 Hz");
  // The next time leaving takes it again.
  type("500");
  fireEvent.blur(input);
  expect(onType).toHaveBeenCalledWith("500");
});

test("Enter and leaving take what was typed, once each; what was not touched isn't taken", () => {
  const { onType, input, type } = well();
  type("440");
  fireEvent.keyDown(input, { key: "Enter" });
  expect(onType).toHaveBeenCalledTimes(1);
  fireEvent.blur(input);
  expect(onType).toHaveBeenCalledTimes(1);
  input.focus();
  fireEvent.blur(input);
  expect(onType).toHaveBeenCalledTimes(1);
});

test("what can't be understood is marked and stays to be mended; left, the value stands there again", () => {
  const { input, type } = well(false);
  type("loud");
  fireEvent.keyDown(input, { key: "Enter" });
  expect(input.getAttribute("aria-invalid")).toBe("true");
  expect(input.value).toBe("loud");
  fireEvent.blur(input);
  expect(input.value).toBe("800 Hz");
  expect(input.getAttribute("aria-invalid")).toBe("false");
});

test("arrows step, by ten with Shift, and leave what was half typed", () => {
  const { onStep, onType, input, type } = well();
  type("12");
  fireEvent.keyDown(input, { key: "ArrowUp" });
  fireEvent.keyDown(input, { key: "ArrowDown", shiftKey: true });
  expect(onStep.mock.calls).toEqual([[1], [-10]]);
  expect(onType).not.toHaveBeenCalled();
});
