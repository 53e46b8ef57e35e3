/** Mirrors that are cut into facets, by their mesh, and show it: many neighbouring pixels share a normal, and others are turned a little. */
import type { Case, RenderInput } from '../family.ts';
import { mirrorsOf, type Mirror } from '../mirrors.ts';
import { maskOf, regionOf } from '../regions.ts';
import { againstCases, type AgainstCase } from './against.ts';
import { isFaceted } from './facets.ts';
import { turnedCases, type TurnedCase } from './facing.ts';

export interface FacetCase extends Case {
  kind: 'facets';
  objects: string[];
  /** Keys of objects whose mesh has smooth normals that are not used. */
  flat: string[];
  /** Names of those, and of objects that have no others. */
  flatNames: string[];
  coarse: string[];
  /** Of all neighbouring pixels, 0–1: those with one normal, and those a little turned. */
  same: number;
  turned: number;
}

/** Shares of neighbouring pixels from which on facets are wide enough to be seen: a curved surface has no two with one normal. */
const ONE_NORMAL = 0.2;
const TURNED = 0.02;

export type NormalsCase = FacetCase | TurnedCase | AgainstCase;

export const normalsCases = (input: RenderInput): NormalsCase[] => [
  ...turnedCases(input),
  ...againstCases(input),
  ...facetCases(input),
];

function facetCases(input: RenderInput): FacetCase[] {
  const { document, picture } = input;
  // The mesh tells what it is, and the picture whether it shows: the pixel filter mixes normals at every edge, those of boxes as well.
  const isCut = ({ same, turned, pairs }: Mirror) => same >= ONE_NORMAL * pairs && turned >= TURNED * pairs;
  const mirrors = mirrorsOf(input).filter((mirror) => isCut(mirror) && isFacetedThere(input, mirror.id));
  if (mirrors.length === 0) return [];
  const mask = maskOf(
    picture,
    mirrors.flatMap(({ pixels }) => pixels),
  );
  const nameOf = ({ id }: { id: string }) => document.objects[id].name || id;
  const flat = mirrors.filter(({ id }) => document.objects[id].normals === 'flat' && hasNormals(input, id));
  const sum = (of: 'same' | 'turned' | 'pairs') => mirrors.reduce((all, one) => all + one[of], 0);
  return [
    {
      key: 'normals.faceted',
      kind: 'facets',
      severity: 'caution',
      region: regionOf(picture, mask),
      mask,
      passes: ['normal', 'specular.direct', 'specular.indirect'],
      objects: mirrors.map(nameOf),
      flat: flat.map(({ id }) => id),
      flatNames: flat.map(nameOf),
      coarse: mirrors.filter((mirror) => !flat.includes(mirror)).map(nameOf),
      same: sum('same') / sum('pairs'),
      turned: sum('turned') / sum('pairs'),
    },
  ];
}

function hasNormals({ scene }: RenderInput, id: string): boolean {
  const instance = scene.instanceObject.indexOf(scene.objectIds.indexOf(id));
  return instance >= 0 && scene.geometry.meshes[scene.geometry.instanceMesh[instance]].normals !== null;
}

function isFacetedThere({ scene, document }: RenderInput, id: string): boolean {
  const instance = scene.instanceObject.indexOf(scene.objectIds.indexOf(id));
  if (instance < 0) return false;
  const mesh = scene.geometry.meshes[scene.geometry.instanceMesh[instance]];
  return isFaceted(mesh, document.objects[id].normals === 'flat');
}
