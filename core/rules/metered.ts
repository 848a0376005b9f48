/**
 * Makes a script's built-in functions cost what they do. The interpreter counts its own steps only: one call of a built-in over a long array is a single
 * step to it, however long it takes. So each takes as many empty turns of a loop as its work is worth, before it begins and for what it gives back.
 * What only pretends to be an array is refused, and flattening is done in steps, as sixty nested arrays may stand for any number of them.
 */
export const METERED = `
"use strict";
(() => {
  const { apply, construct, ownKeys } = Reflect;
  const { isArray } = Array;
  const { isView } = ArrayBuffer;
  const { defineProperty, getOwnPropertyDescriptor, getPrototypeOf, setPrototypeOf } = Object;
  const Wrong = TypeError;
  // Elements, or characters, that are worth one turn.
  const SHARE = 16;
  // What a call costs that failed: it may have filled all memory first.
  const FAILED = 4000;
  const burn = (worth) => {
    for (let left = worth / SHARE; left > 1; left--);
  };
  // How much there is to do with a value: elements or characters.
  const sizeOf = (value) => {
    if (typeof value === "string") return value.length;
    if (typeof value !== "object" || value === null) return 0;
    if (isArray(value) || isView(value)) return value.length ?? value.byteLength;
    return 0;
  };
  const sum = (of, all) => {
    let size = sizeOf(of);
    for (let i = 0; i < all.length; i++) size += sizeOf(all[i]);
    return size;
  };
  const metered = (call) =>
    (of, all) => {
      burn(sum(of, all));
      let done = false;
      try {
        const result = call(of, all);
        done = true;
        burn(sizeOf(result));
        return result;
      } finally {
        if (!done) burn(FAILED * SHARE);
      }
    };
  const wrap = (owner, fits) => {
    const keys = ownKeys(owner);
    for (let i = 0; i < keys.length; i++) {
      const key = keys[i];
      const given = getOwnPropertyDescriptor(owner, key);
      const own = given.value;
      if (key === "constructor" || typeof own !== "function" || !given.configurable) continue;
      const run = metered((of, all) => apply(own, of, all));
      const method = {
        method(...all) {
          if (fits && !fits(this)) throw new Wrong(String(key) + " is for arrays only");
          return run(this, all);
        },
      }.method;
      given.value = method;
      defineProperty(owner, key, given);
    }
  };
  // A flat array that is made in steps.
  const flatten = (from, depth, into) => {
    for (let i = 0; i < from.length; i++) {
      if (isArray(from[i]) && depth > 0) flatten(from[i], depth - 1, into);
      else into[into.length] = from[i];
    }
    return into;
  };
  wrap(Array.prototype, isArray);
  Array.prototype.flat = function flat(depth = 1) {
    if (!isArray(this)) throw new Wrong("flat is for arrays only");
    return flatten(this, depth, []);
  };
  Array.prototype.flatMap = function flatMap(make, self) {
    return flatten(this.map(make, self), 1, []);
  };
  const typed = getPrototypeOf(Int8Array);
  wrap(typed.prototype, isView);
  wrap(typed);
  wrap(String.prototype);
  wrap(String);
  wrap(Array);
  wrap(ArrayBuffer.prototype);
  wrap(Map.prototype);
  wrap(Set.prototype);
  wrap(JSON);
  wrap(Object);
  wrap(Reflect);
  const exec = RegExp.prototype.exec;
  const search = metered((of, all) => apply(exec, of, all));
  RegExp.prototype.exec = function (text) {
    return search(this, [String(text)]);
  };
  for (const name of ["Array", "ArrayBuffer", "Map", "Set", "RegExp", "Float32Array", "Float64Array", "Int8Array", "Uint8Array",
    "Uint8ClampedArray", "Int16Array", "Uint16Array", "Int32Array", "Uint32Array", "BigInt64Array", "BigUint64Array"]) {
    const Own = globalThis[name];
    if (typeof Own !== "function") continue;
    const make = metered((target, all) => construct(Own, all, target));
    const called = metered((of, all) => apply(Own, of, all));
    const Counted = function (...all) {
      const given = all[0];
      // Of a number, memory of so many elements is cleared; of anything that can be gone through, its elements are taken.
      if (typeof given === "number") burn(name === "Array" ? 0 : given);
      return new.target ? make(new.target === Counted ? Own : new.target, all) : called(undefined, all);
    };
    const keys = ownKeys(Own);
    for (let i = 0; i < keys.length; i++) {
      const kept = getOwnPropertyDescriptor(Own, keys[i]);
      if (keys[i] !== "prototype") defineProperty(Counted, keys[i], kept);
    }
    setPrototypeOf(Counted, getPrototypeOf(Own));
    Counted.prototype = Own.prototype;
    defineProperty(Own.prototype, "constructor", { value: Counted, writable: true, configurable: true });
    globalThis[name] = Counted;
  }
})();
`;
