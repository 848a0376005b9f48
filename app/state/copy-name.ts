/** A name for a copy that nothing else has: `harp copy`, `harp copy 2`, …; a copy's copy counts on. */
export function copyName(name: string, taken: ReadonlySet<string>): string {
  const base = name.replace(/ copy(?: \d+)?$/, "").slice(0, 180);
  for (let n = 1; ; n++) {
    const made = n === 1 ? `${base} copy` : `${base} copy ${n}`;
    if (!taken.has(made)) return made;
  }
}

/** The first name of `what 1`, `what 2`, … from a number on that nothing has yet. */
export function freeName(what: string, from: number, taken: ReadonlySet<string>): string {
  for (let n = from; ; n++) if (!taken.has(`${what} ${n}`)) return `${what} ${n}`;
}
