/** Names that some systems keep for devices. */
const KEPT = /^(con|prn|aux|nul|com\d|lpt\d)$/i;

/** A file name made of a title: letters, digits and dashes, and nothing that a system keeps for itself. */
export function fileName(title: string): string {
  const name = title
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, "-")
    .replace(/^-+|-+$/g, "")
    .slice(0, 80);
  return name === "" || KEPT.test(name) ? `${name}${name && "-"}instrument` : name;
}
