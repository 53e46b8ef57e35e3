/**
 * The thin lens of a camera: what its angle of view, sensor and f-number make of distances. Source: Potmesil & Chakravarty,
 * "A Lens and Aperture Camera Model for Synthetic Image Generation", SIGGRAPH 1981.
 *
 * @example
 * focalLength({ fieldOfView: 27, sensorHeight: 24 });                              // 0.04998 m
 * blurShare({ fieldOfView: 27, sensorHeight: 24, fStop: 2.8 }, 2, 4) * 1080;       // pixels of a frame of 1080 rows
 */
export interface Lens {
  /** Vertical, degrees. */
  fieldOfView: number;
  /** Millimetres. */
  sensorHeight: number;
  /** Null: a pinhole, by which all is sharp. */
  fStop: number | null;
}

const METRES = 1e-3;

/** Metres from the lens to the sensor, for a camera that has it where parallel light would meet. */
export const focalLength = ({ fieldOfView, sensorHeight }: Pick<Lens, 'fieldOfView' | 'sensorHeight'>): number =>
  (sensorHeight * METRES) / 2 / Math.tan((fieldOfView * Math.PI) / 360);

/** Metres; 0 for a pinhole. */
export const lensRadius = (lens: Lens): number => (lens.fStop === null ? 0 : focalLength(lens) / lens.fStop / 2);

/**
 * Diameter of the circle of confusion of a point, as a share of the picture's height.
 *
 * @param focus metres from the lens to the plane in focus, along the axis
 * @param distance metres to the point, along the axis
 */
export const blurShare = (lens: Lens, focus: number, distance: number): number =>
  (lensRadius(lens) * Math.abs(1 / focus - 1 / distance)) / Math.tan((lens.fieldOfView * Math.PI) / 360);
