const two = (n: number): string => String(n).padStart(2, "0");

/** A moment by the clock on the wall: `2026-11-23 19:47`. Written out here, for the browser's own formatter takes 50 ms to load. */
export function dateText(moment: string | number): string {
  const date = new Date(moment);
  if (Number.isNaN(date.getTime())) return "not known";
  const day = `${date.getFullYear()}-${two(date.getMonth() + 1)}-${two(date.getDate())}`;
  return `${day} ${two(date.getHours())}:${two(date.getMinutes())}`;
}
