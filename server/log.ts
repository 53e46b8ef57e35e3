import { pino } from 'pino';

export const log = pino({ level: process.env.DUSTING_LOG_LEVEL || 'info' });
