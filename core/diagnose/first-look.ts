/** A first look at a render that still runs, by the families that need no picture without noise (`Family.isEarly`). */

/** Groups of every pixel after which it is taken: enough to tell what limits take, and next to nothing of what a render takes. */
export const FIRST_LOOK_GROUPS = 4;

/** Whether a render of so many groups has one: a shorter one is done by then. */
export const hasFirstLook = (targetGroups: number): boolean => targetGroups > FIRST_LOOK_GROUPS;
