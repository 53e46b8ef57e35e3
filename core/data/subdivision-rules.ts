/** Rules of the open standard for where a surface, or an island of its UVs, ends, in plain words. Source: OpenUSD, UsdGeomMesh. */

/** `faceVaryingLinearInterpolation`: what is held of UVs while the rest is smoothed. */
export const UV_RULES = {
  none: 'Islands shrink all around: nothing of their borders is held.',
  cornersOnly: 'Only the corners of an island are held; its border is rounded between them.',
  cornersPlus1: 'Corners are held, and places where three islands or more meet.',
  cornersPlus2:
    'Corners, places where three islands or more meet, hollow corners, and the ends of seams within an island.',
  boundaries: 'The whole border of every island is held.',
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
