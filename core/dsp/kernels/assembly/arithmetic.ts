// Arithmetic on vectors of four floats, under short names.
import { LOUDEST } from "../layout";

// @ts-ignore: decorator
@inline export function num(x: f32): v128 { return f32x4.splat(x); }
// @ts-ignore: decorator
@inline export function add(a: v128, b: v128): v128 { return f32x4.add(a, b); }
// @ts-ignore: decorator
@inline export function sub(a: v128, b: v128): v128 { return f32x4.sub(a, b); }
// @ts-ignore: decorator
@inline export function mul(a: v128, b: v128): v128 { return f32x4.mul(a, b); }
// What is too large, or not a number, becomes 0.
// @ts-ignore: decorator
@inline export function sound(x: v128): v128 { return v128.and(x, f32x4.lt(f32x4.abs(x), num(<f32>LOUDEST))); }
// a·b + c: one instruction, rounded once, in the build for runtimes that have it.
// @ts-ignore: decorator
@inline export function madd(a: v128, b: v128, c: v128): v128 {
  return ASC_FEATURE_RELAXED_SIMD ? f32x4.relaxed_madd(a, b, c) : f32x4.add(f32x4.mul(a, b), c);
}
// Numbers too small to matter, and those that are none, become 0: they would be slow, or spread.
// @ts-ignore: decorator
@inline export function flush(x: v128): v128 {
  return v128.and(x, f32x4.gt(f32x4.abs(x), num(1e-18)));
}
