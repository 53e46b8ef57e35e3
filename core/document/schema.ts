/** The shot document's schema and types; one file a subject in `schema/`. */
export { ID_PATTERN, type LinkSpec, type StopsSpec } from './schema/common.ts';
export * from './schema/document.ts';
export type { BackgroundSpec, EmitterSpec, EnvironmentSpec, FogSpec, LightSpec, SkySpec } from './schema/light.ts';
export { SHADOW_FILTERS, type PreviewShadowsSpec } from './schema/preview-shadows.ts';
export { FILTER_KINDS, type ExtraKind, type FilterKind, type LimitKind, type Sheet } from './schema/sheet.ts';
export type {
  AnyMapSpec,
  CoatSpec,
  DisplacementKind,
  MapSpec,
  MaterialSpec,
  ReachSpec,
  SharedSpec,
  TextureSpec,
} from './schema/surface.ts';
export type { CameraSpec, GroupSpec, ObjectSpec } from './schema/things.ts';
