/** What a ray is sent for, one bit each: an instance or light with that bit is there for it. */
export const CAMERA_RAY = 1;
/** Shadow rays meet opaque bodies and those that let light through by different bits, the former first. */
export const SHADOW_RAY = 2;
export const SHADOW_THROUGH_RAY = 4;
/** After a diffuse event, or one in fog. */
export const DIFFUSE_RAY = 8;
export const SPECULAR_RAY = 16;
export const TRANSMISSION_RAY = 32;
export const OCCLUSION_RAY = 64;

export const ANY_SHADOW_RAY = SHADOW_RAY | SHADOW_THROUGH_RAY;
