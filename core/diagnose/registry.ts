import { cutShort } from './cut-short/definition.ts';
import type { Diagnosis } from './diagnosis.ts';
import { fireflies } from './fireflies/definition.ts';
import { grain } from './grain/definition.ts';
import { reflections } from './reflections/definition.ts';

/** All families, in the order their findings stand for equal severity. */
export const diagnoses: Diagnosis[] = [cutShort, fireflies, reflections, grain];

/** Every pass that one of them looks at: what a picture to be examined must have. */
export const neededPasses = (): string[] => [...new Set(diagnoses.flatMap((diagnosis) => diagnosis.needs))];
