/**
 * Where the sun stands at a place and time. Source: Meeus, Astronomical Algorithms, second edition, chapters 12, 13, 16 and 25
 * (low accuracy, 0.01°); refraction by Sæmundsson, as quoted there (16.4).
 *
 * @example
 * sunPosition({ latitude: 46.5, longitude: 11.3, time: new Date('2026-06-21T06:30:00Z') }); // { elevation: 29.198, azimuth: 85.780 }
 */
import type { SunPlace } from '../data/placement.ts';

export interface PlaceAndTime {
  /** Degrees, north and east above 0. */
  latitude: number;
  longitude: number;
  time: { getTime(): number };
}

const RADIANS = Math.PI / 180;
const DAY = 86_400_000;
/** Julian day of 1970-01-01, and of 2000-01-01 12:00. */
const EPOCH = 2440587.5;
const J2000 = 2451545;
/** Seconds by which the clocks of the sky are before ours, in these decades. */
const AHEAD = 69;

const sin = (degrees: number): number => Math.sin(degrees * RADIANS);
const cos = (degrees: number): number => Math.cos(degrees * RADIANS);
const round = (degrees: number): number => ((degrees % 360) + 360) % 360;

/** Apparent right ascension and declination, degrees. @param day Julian day of dynamical time */
export function sunEquatorial(day: number): { rightAscension: number; declination: number } {
  const t = (day - J2000) / 36525;
  const longitude = 280.46646 + 36000.76983 * t + 0.0003032 * t * t;
  const anomaly = 357.52911 + 35999.05029 * t - 0.0001537 * t * t;
  const centre =
    (1.914602 - 0.004817 * t - 0.000014 * t * t) * sin(anomaly) +
    (0.019993 - 0.000101 * t) * sin(2 * anomaly) +
    0.000289 * sin(3 * anomaly);
  const node = 125.04 - 1934.136 * t;
  const apparent = longitude + centre - 0.00569 - 0.00478 * sin(node);
  const obliquity = 23.4392911 - 0.0130042 * t - 1.64e-7 * t * t + 0.00256 * cos(node);
  return {
    rightAscension: round(Math.atan2(cos(obliquity) * sin(apparent), cos(apparent)) / RADIANS),
    declination: Math.asin(sin(obliquity) * sin(apparent)) / RADIANS,
  };
}

/** Degrees; as it is seen through the air, whose refraction lifts it near the horizon. */
export function sunPosition({ latitude, longitude, time }: PlaceAndTime): SunPlace {
  const day = time.getTime() / DAY + EPOCH;
  const { rightAscension, declination } = sunEquatorial(day + AHEAD / 86400);
  const t = (day - J2000) / 36525;
  const sidereal = 280.46061837 + 360.98564736629 * (day - J2000) + 0.000387933 * t * t;
  const hour = sidereal + longitude - rightAscension;
  const height = Math.asin(sin(latitude) * sin(declination) + cos(latitude) * cos(declination) * cos(hour)) / RADIANS;
  // Meeus counts azimuth from south by way of west.
  const azimuth = Math.atan2(sin(hour), cos(hour) * sin(latitude) - Math.tan(declination * RADIANS) * cos(latitude));
  const lift = height > -1 ? 1.02 / 60 / Math.tan((height + 10.3 / (height + 5.11)) * RADIANS) : 0;
  return { elevation: height + lift, azimuth: round(azimuth / RADIANS + 180) };
}
