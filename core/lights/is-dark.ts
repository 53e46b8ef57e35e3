/** Whether a light or an environment sends out nothing, by its own intensity and colour. */
export const isDark = ({ intensity, colour }: { intensity: number; colour: readonly number[] }): boolean =>
  intensity === 0 || colour.every((c) => c === 0);

/** Whether a material sends out nothing. */
export const isUnlit = ({
  emission,
  emissionStrength,
}: {
  emission: readonly number[];
  emissionStrength: number;
}): boolean =>
  // prettier-ignore
  isDark({ intensity: emissionStrength, colour: emission });
