/** Rules of the open standard for where a surface, or an island of its UVs, ends, in plain words. Source: OpenUSD, UsdGeomMesh. */

/** `faceVaryingLinearInterpolation`: what is held of UVs while the rest is smoothed. */
export const UV_RULES = {
  none: 'Islands shrink all around: no borders are kept.',
  cornersOnly: 'Only the corners of an island are kept; its border is rounded between them.',
  cornersPlus1: 'Corners are kept, and points where three or more islands meet.',
  cornersPlus2:
    'Corners, points where three or more islands meet, concave corners, and the ends of seams within an island.',
  boundaries: 'The whole border of every island is kept.',
  all: 'Nothing is smoothed: UVs stay as they were drawn.',
} as const;
export type UvRule = keyof typeof UV_RULES;
/** Of a mesh that does not say. */
export const USUAL_UV_RULE: UvRule = 'cornersPlus1';

/** `interpolateBoundary`: what holds at the boundary of a mesh. */
export const BOUNDARY_RULES = {
  none: 'Faces at the boundary are left out: they only guide those within.',
  edgeOnly: 'The boundary is a smooth curve, its corners too.',
  edgeAndCorner: 'The boundary is a smooth curve, and a corner of one face stays where it is.',
} as const;
export type BoundaryRule = keyof typeof BOUNDARY_RULES;
export const USUAL_BOUNDARY: BoundaryRule = 'edgeAndCorner';
