/**
 * What goes first, over all queues: what somebody waits for before what may come some time. Higher is earlier. A trial goes
 * before everything, the open shot before all others, and examinations in the background last.
 */
export const PREDICTION = 120;
export const TRIAL = 110;
export const TIMING = 108;
export const PREFLIGHT = 105;
/** Added to work on the shot that was opened last; see `attention.ts`. */
export const OPEN_SHOT = 60;
/** Of base renders, less a little for each round that pixels have already. */
export const RENDER = 0;
/** Of frames of a range, behind base renders of the same shot. */
export const FRAME = -15;
/** Some families look while a render runs: after its first rounds, before the others. */
export const FIRST_LOOK = 1;
/** Behind the rounds of other renders. */
export const EXAMINATION = -25;
