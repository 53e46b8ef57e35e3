/**
 * The shot document, version 1: one schema for validation (Ajv) and for types (TypeBox).
 * Stored documents have every property; text that leaves some out is completed when it is read (`complete.ts`).
 * People read about it in `docs/shot-document.md`.
 */
import { Type, type Static } from '@sinclair/typebox';
import { closed, CODE_PATTERN, Id, mapOf, Name, whole } from './common.ts';
import { Background, Environment, Fog, Light } from './light.ts';
import { PreviewShadows } from './preview-shadows.ts';
import { Sheet } from './sheet.ts';
import { CoatSchema, MapSpecSchema, Material, TextureRef } from './surface.ts';
import { Camera, Group, MeshRef, SceneObject } from './things.ts';

export const ShotDocumentSchema = Type.Object(
  {
    schema: Type.Literal('dusting.shot/1'),
    code: Type.String({ pattern: CODE_PATTERN, minLength: 1, maxLength: 40 }),
    name: Name,
    frame: whole(-1e6, 1e7, 'frame number'),
    camera: Id,
    cameras: mapOf(Camera),
    meshes: mapOf(MeshRef),
    textures: mapOf(TextureRef),
    maps: mapOf(MapSpecSchema),
    coats: mapOf(CoatSchema),
    materials: mapOf(Material),
    objects: mapOf(SceneObject),
    groups: mapOf(Group),
    lights: mapOf(Light),
    environment: Environment,
    background: Type.Union([Background, Type.Null()]),
    fog: Type.Union([Fog, Type.Null()]),
    previewShadows: Type.Union([PreviewShadows, Type.Null()]),
    sheets: Type.Object({ preview: Sheet, final: Sheet }, closed),
  },
  { ...closed, $id: 'dusting.shot/1' },
);

/** Parts of materials that several documents share: a file of its own. */
export const FragmentsSchema = Type.Object(
  {
    schema: Type.Literal('dusting.fragments/1'),
    textures: mapOf(TextureRef),
    maps: mapOf(MapSpecSchema),
    coats: mapOf(CoatSchema),
  },
  { ...closed, $id: 'dusting.fragments/1' },
);

export type ShotDocument = Static<typeof ShotDocumentSchema>;
export type Fragments = Static<typeof FragmentsSchema>;
export type SheetName = keyof ShotDocument['sheets'];
