/** Glass stays dark because paths end at the transmission limit. */
import { byOwnLimit } from './own-limit.ts';

export const transmission = byOwnLimit('transmission');
