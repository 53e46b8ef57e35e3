/** All shots, live while the list is open. */
import type { ShotSummary } from '../../core/contracts/events.ts';
import { follow } from '../remote/live.ts';

export const followShots = () => follow<ShotSummary[]>('/events', '/shots');
