/**
 * Edges in reflections that no number of samples takes away: the mirror is cut into facets, or the image that it mirrors
 * has fewer texels than the frame has pixels. Where there is neither, jagged reflections are too few samples a pixel,
 * which `grain` tells.
 *
 * Facets: neighbouring pixels have one normal, and then another one, where those of a curved surface turn all the time.
 * A flat mirror turns the view without widening it, so that a texel of the environment is seen as wide as it is. A lobe
 * as wide as a texel takes its edges away. Source of its width: Walter et al. 2007, equation 33.
 */
import type { FindingWithMask } from '../../contracts/finding.ts';
import type { Picture, Region } from '../../data/picture.ts';
import { objectNames } from '../../document/object-names.ts';
import { strongestWindow } from '../../picture/measured.ts';
import { predictChange } from '../../predict/predict-change.ts';
import type { Diagnosis, DiagnosisInput } from '../diagnosis.ts';
import { mirrorsOf, type Mirror } from './mirrors.ts';

/** Shares of neighbouring pixels from which on a mirror is cut into facets: most have one normal, and some are turned. */
const ONE_NORMAL = 0.5;
const TURNED = 0.02;
/** Pixels that a texel is wide before it is seen. */
const WIDE = 2;
/** Of the frame, where a trial shows it. */
const REGION = { width: 0.3, height: 0.4 };

export const reflections: Diagnosis = {
  id: 'reflections',
  title: 'Edges in reflections',
  needs: ['beauty', 'error.beauty', 'specular.direct', 'specular.indirect', 'object', 'object.coverage', 'normal'],
  examine(input) {
    const mirrors = mirrorsOf(input);
    const faceted = mirrors.filter(({ same, turned, pairs }) => same >= ONE_NORMAL * pairs && turned >= TURNED * pairs);
    return [...(faceted.length ? [facets(input, faceted)] : []), ...coarse(input, mirrors)];
  },
};

function facets(input: DiagnosisInput, mirrors: Mirror[]): FindingWithMask {
  const { document, picture, scene, sheet, pilotSeed } = input;
  const mask = maskOf(picture, mirrors);
  const region = regionOf(picture, mask);
  const names = mirrors.map(({ id }) => document.objects[id].name || id);
  // Normals of triangles are a switch of the object; where its mesh has no others, only another mesh helps.
  const flat = mirrors.filter(({ id }) => document.objects[id].normals === 'flat' && hasNormals(input, id));
  const values = Object.fromEntries(flat.map(({ id }) => [`/objects/${id}/normals`, 'smooth']));
  const coarse = mirrors.filter((mirror) => !flat.includes(mirror)).map(({ id }) => document.objects[id].name || id);
  const change = {
    before: { scene, sheet },
    region,
    mask: null,
    picture,
    names: objectNames(document),
    seed: pilotSeed,
  };
  const why = [
    'Most neighbouring pixels have one normal, and others are turned a little, as no curved surface is: each facet mirrors by itself.',
    flat.length ? 'The mesh has smooth normals, which are not used.' : '',
    coarse.length ? `${listed(coarse)} ${coarse.length === 1 ? 'has' : 'have'} no smoother normals in the mesh: it has to come finer, or with normals.` : '', // prettier-ignore
    'More samples would only make the edges cleaner.',
  ];
  return {
    mask,
    finding: {
      family: 'reflections',
      key: 'reflections.facets',
      severity: 'caution',
      sentence: `Reflections of ${listed(names)} are cut into facets.`,
      cause: `Facets, and not too few samples, break the edges that ${listed(names)} ${names.length === 1 ? 'mirrors' : 'mirror'}`, // prettier-ignore
      why: why.filter(Boolean).join(' '),
      region,
      passes: ['normal', 'specular.direct', 'specular.indirect'],
      dials: [],
      chart: null,
      remedies: flat.length
        ? [{ id: 'smooth-normals', title: `Smooth normals of ${listed(flat.map(({ id }) => document.objects[id].name || id))}`, values, predicted: predictChange({ ...change, after: input.vary(values) }) }] // prettier-ignore
        : [],
    },
  };
}

/**
 * The roughness whose lobe is as wide as an angle. A GGX distribution falls to half at tan²θ = α² (√2 − 1), a mirrored
 * direction turns by twice the angle of its normal, and to both sides; α is roughness squared.
 * @param angle radians
 */
function roughnessAsWideAs(angle: number): number {
  return Math.sqrt(Math.tan(angle / 4) / Math.sqrt(Math.SQRT2 - 1));
}

/** An environment image whose texels are seen. */
function coarse(input: DiagnosisInput, mirrors: Mirror[]): FindingWithMask[] {
  const { document, picture, scene, sheet, pilotSeed } = input;
  const image = scene.chains[scene.sky.texture]?.[0];
  if (document.environment.kind !== 'image' || !image || mirrors.length === 0) return [];
  const texel = 360 / image.width;
  const pixel = document.cameras[document.camera].fieldOfView / sheet.height;
  if (texel < WIDE * pixel) return [];
  const mask = maskOf(picture, mirrors);
  const needed = 2 ** Math.ceil(Math.log2(360 / pixel));
  const names = mirrors.map(({ id }) => document.objects[id].name || id);
  const region = regionOf(picture, mask);
  const roughness = +roughnessAsWideAs((texel * Math.PI) / 180).toFixed(2);
  const materials = [...new Set(mirrors.map(({ id }) => document.objects[id].material))].filter((id) => document.materials[id].roughness < roughness); // prettier-ignore
  const values = Object.fromEntries(materials.map((id) => [`/materials/${id}/roughness`, roughness]));
  return [
    {
      mask,
      finding: {
        family: 'reflections',
        key: 'reflections.environment',
        severity: 'note',
        sentence: `The environment is coarser than the frame: a texel of it is ${(texel / pixel).toFixed(0)} pixels wide where ${listed(names)} ${names.length === 1 ? 'mirrors' : 'mirror'} it.`, // prettier-ignore
        cause: `${image.width} texels around: ${texel.toFixed(2)}° each, and ${pixel.toFixed(3)}° a pixel`,
        why: `What is sharp out there is soft or stepped in flat mirrors, whatever the samples. An image of about ${needed} texels around has one for each pixel.`,
        region,
        passes: ['specular.direct'],
        dials: [],
        chart: null,
        remedies: materials.length
          ? [
              {
                id: 'roughness',
                title: `Roughness ${roughness}: ${listed(names)} ${names.length === 1 ? 'blurs' : 'blur'} as much as a texel is wide`,
                values,
                predicted: predictChange({
                  before: { scene, sheet },
                  after: input.vary(values),
                  region,
                  mask: null,
                  picture,
                  names: objectNames(document),
                  seed: pilotSeed,
                }),
              },
            ]
          : [],
      },
    },
  ];
}

function hasNormals({ scene, document }: DiagnosisInput, id: string): boolean {
  const number = Object.keys(document.objects).sort().indexOf(id);
  const instance = scene.instanceObject.indexOf(number);
  return instance >= 0 && scene.geometry.meshes[scene.geometry.instanceMesh[instance]].normals !== null;
}

function maskOf({ width, height }: Picture, mirrors: Mirror[]): Uint8Array {
  const mask = new Uint8Array(width * height);
  for (const { pixels } of mirrors) for (const i of pixels) mask[i] = 1;
  return mask;
}

const regionOf = (picture: Picture, mask: Uint8Array): Region =>
  strongestWindow(picture, mask, Math.ceil(picture.width * REGION.width), Math.ceil(picture.height * REGION.height));

const NAMED = 3;
const listed = (names: string[]): string =>
  names.length > NAMED ? `${names.slice(0, NAMED).join(', ')} and ${names.length - NAMED} more` : names.join(' and ');
