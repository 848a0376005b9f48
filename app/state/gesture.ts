let gestures = 0;

/** A new name for a gesture, such as one drag. */
export const newGesture = (): string => `gesture-${++gestures}`;
