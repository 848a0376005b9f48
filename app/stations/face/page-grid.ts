/** Pixels of the screen within which items settle on each other; of the page between two lines of the grid. */
export const REACH = 6;
export const GRID = 4;
