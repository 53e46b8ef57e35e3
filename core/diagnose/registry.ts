import { cutShort } from './cut-short/definition.ts';
import type { Diagnosis } from './diagnosis.ts';
import { grain } from './grain/definition.ts';

/** All families, in the order their findings stand for equal severity. */
export const diagnoses: Diagnosis[] = [cutShort, grain];
