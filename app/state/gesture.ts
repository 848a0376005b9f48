let gestures = 0;

/** A new name for a gesture that has an end, such as one drag. */
export const newGesture = (): string => `drag-${++gestures}`;

export const isDrag = (gesture: string): boolean => gesture.startsWith("drag-");
