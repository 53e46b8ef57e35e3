/** Every check, in the order in which people read them. Another one is a file and a line here. */
import type { Check } from './check.ts';
import { badNormals } from './checks/bad-normals.ts';
import { cameraClip } from './checks/camera-clip.ts';
import { cameraCount } from './checks/camera-count.ts';
import { coincidentInstances } from './checks/coincident-instances.ts';
import { degenerateFace } from './checks/degenerate-face.ts';
import { duplicateFace } from './checks/duplicate-face.ts';
import { environmentMissing } from './checks/environment-missing.ts';
import { farFromOrigin } from './checks/far-from-origin.ts';
import { fileAbsolute } from './checks/file-absolute.ts';
import { fileMissing } from './checks/file-missing.ts';
import { fileOutsideRoots } from './checks/file-outside-roots.ts';
import { frameRate } from './checks/frame-rate.ts';
import { frameSpan } from './checks/frame-span.ts';
import { instanceCount } from './checks/instance-count.ts';
import { lightOff } from './checks/light-off.ts';
import { lightsMissing } from './checks/lights-missing.ts';
import { lightsWithShadows } from './checks/lights-with-shadows.ts';
import { limitOverridden } from './checks/limit-overridden.ts';
import { liveOperations } from './checks/live-operations.ts';
import { materialMissing } from './checks/material-missing.ts';
import { materialPlaceholder } from './checks/material-placeholder.ts';
import { mixedWinding } from './checks/mixed-winding.ts';
import { motionStatic } from './checks/motion-static.ts';
import { nameDuplicate } from './checks/name-duplicate.ts';
import { namePlaceholder } from './checks/name-placeholder.ts';
import { ngon } from './checks/ngon.ts';
import { nonManifoldEdge } from './checks/non-manifold-edge.ts';
import { objectCount } from './checks/object-count.ts';
import { objectHidden } from './checks/object-hidden.ts';
import { oneSidedTexture } from './checks/one-sided-texture.ts';
import { offsetInVertices } from './checks/offset-in-vertices.ts';
import { openEdge } from './checks/open-edge.ts';
import { outputMissing } from './checks/output-missing.ts';
import { pictureSize } from './checks/picture-size.ts';
import { pivotFar } from './checks/pivot-far.ts';
import { pixelAspect } from './checks/pixel-aspect.ts';
import { positionNotFinite } from './checks/position-not-finite.ts';
import { referenceOutsideRoots } from './checks/reference-outside-roots.ts';
import { referenceUnused } from './checks/reference-unused.ts';
import { reversedNormals } from './checks/reversed-normals.ts';
import { samplesOutOfRange } from './checks/samples-out-of-range.ts';
import { sceneScale } from './checks/scene-scale.ts';
import { sceneUnits } from './checks/scene-units.ts';
import { settingsAtDefault } from './checks/settings-at-default.ts';
import { settingsBlank } from './checks/settings-blank.ts';
import { sheetDrift } from './checks/sheet-drift.ts';
import { targetMismatch } from './checks/target-mismatch.ts';
import { textureBitDepth } from './checks/texture-bit-depth.ts';
import { textureColourSpace } from './checks/texture-colour-space.ts';
import { textureCount } from './checks/texture-count.ts';
import { textureConstant } from './checks/texture-constant.ts';
import { textureDuplicate } from './checks/texture-duplicate.ts';
import { textureMemory } from './checks/texture-memory.ts';
import { textureMissing } from './checks/texture-missing.ts';
import { tinyBrightEmitter } from './checks/tiny-bright-emitter.ts';
import { tileMissing } from './checks/tile-missing.ts';
import { transformLeftOnObject } from './checks/transform-left-on-object.ts';
import { transformNegative } from './checks/transform-negative.ts';
import { transformSheared } from './checks/transform-sheared.ts';
import { transformZero } from './checks/transform-zero.ts';
import { triangleCount } from './checks/triangle-count.ts';
import { ungroupedObject } from './checks/ungrouped-object.ts';
import { uvMissing } from './checks/uv-missing.ts';
import { uvOutOfTile } from './checks/uv-out-of-tile.ts';
import { uvOverlap } from './checks/uv-overlap.ts';
import { uvSetWithoutData } from './checks/uv-set-without-data.ts';
import { uvStretched } from './checks/uv-stretched.ts';
import { viewTransform } from './checks/view-transform.ts';
import { visibilityChanges } from './checks/visibility-changes.ts';

export const CHECKS: Check[] = [
  frameRate,
  frameSpan,
  motionStatic,
  visibilityChanges,
  pictureSize,
  pixelAspect,
  cameraCount,
  cameraClip,
  outputMissing,
  viewTransform,
  textureMissing,
  fileMissing,
  fileOutsideRoots,
  referenceOutsideRoots,
  fileAbsolute,
  referenceUnused,
  triangleCount,
  instanceCount,
  objectCount,
  textureCount,
  textureMemory,
  textureDuplicate,
  textureConstant,
  lightsWithShadows,
  lightsMissing,
  lightOff,
  environmentMissing,
  tinyBrightEmitter,
  sceneUnits,
  sceneScale,
  farFromOrigin,
  offsetInVertices,
  pivotFar,
  positionNotFinite,
  transformLeftOnObject,
  transformNegative,
  transformZero,
  transformSheared,
  ngon,
  nonManifoldEdge,
  openEdge,
  degenerateFace,
  duplicateFace,
  coincidentInstances,
  reversedNormals,
  mixedWinding,
  badNormals,
  liveOperations,
  materialMissing,
  materialPlaceholder,
  textureColourSpace,
  textureBitDepth,
  oneSidedTexture,
  uvMissing,
  uvSetWithoutData,
  uvOutOfTile,
  tileMissing,
  uvOverlap,
  uvStretched,
  namePlaceholder,
  nameDuplicate,
  ungroupedObject,
  objectHidden,
  sheetDrift,
  limitOverridden,
  samplesOutOfRange,
  settingsBlank,
  settingsAtDefault,
  targetMismatch,
];
