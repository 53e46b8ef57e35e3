/**
 * Absorption coefficient, 1/m, of a medium that has `colour` after `distance` metres; 0 without a distance.
 * Source: Beer–Lambert law as in KHR_materials_volume. A channel of 0 is taken as 1e-4, since nothing
 * real absorbs everything.
 */
export function absorption(colour: number, distance: number | null): number {
  return distance === null ? 0 : -Math.log(Math.max(colour, 1e-4)) / distance;
}
