/** The checks of a picture's health, worst first. Another one is a file and a line here. */
import type { HealthCheck } from './check.ts';
import { definition as alphaRange } from './checks/alpha-range.ts';
import { definition as blackPass } from './checks/black-pass.ts';
import { definition as clipped } from './checks/clipped.ts';
import { definition as fireflies } from './checks/fireflies.ts';
import { definition as lacksColours } from './checks/lacks-colours.ts';
import { definition as negative } from './checks/negative.ts';
import { definition as notFinite } from './checks/not-finite.ts';
import { definition as passesAddUp } from './checks/passes-add-up.ts';

export const HEALTH_CHECKS: HealthCheck[] = [
  notFinite,
  fireflies,
  clipped,
  negative,
  alphaRange,
  lacksColours,
  blackPass,
  passesAddUp,
];
