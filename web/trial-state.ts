/** What can be done with a trial as it stands, for its card, its menu, the keys and the palette alike. */
import type { TrialSummary } from '../core/contracts/events.ts';

type Standing = Pick<TrialSummary, 'state' | 'verdict'>;

export const isRunning = ({ state }: Standing): boolean => state === 'predicting' || state === 'rendering';

/** It was measured, and nothing was decided about it. */
export const canKeep = ({ state, verdict }: Standing): boolean => state === 'done' && verdict === null;

export const canDrop = (trial: Standing): boolean => !isRunning(trial) && trial.verdict === null;
