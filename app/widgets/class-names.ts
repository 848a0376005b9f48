/** Joins the class names that hold. */
export const cx = (...names: readonly (string | false | null | undefined)[]): string => names.filter(Boolean).join(" ");
