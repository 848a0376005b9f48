/**
 * Computes what is derived from a part of a document once for each: parts never change, an edit puts others in their place. Whoever asks again gets the
 * very same answer.
 */
export function byIdentity<K extends object, V>(compute: (part: K) => V): (part: K) => V {
  const known = new WeakMap<K, { readonly value: V }>();
  return (part) => {
    let entry = known.get(part);
    if (!entry) {
      entry = { value: compute(part) };
      known.set(part, entry);
    }
    return entry.value;
  };
}
