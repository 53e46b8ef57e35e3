/** Cameras, meshes and objects of a shot document. */
import { Type, type Static } from '@sinclair/typebox';
import { BOUNDARY_RULES, UV_RULES } from '../../data/subdivision-rules.ts';
import { choice, closed, File, flag, Id, Matrix, MaybeId, Name, number, numberOrNone, whole } from './common.ts';

const keysOf = <T extends object>(of: T) => Object.keys(of) as (keyof T & string)[];

export const Camera = Type.Object(
  {
    name: Name,
    transform: Matrix,
    fieldOfView: Type.Number({ exclusiveMinimum: 0, exclusiveMaximum: 180, description: 'vertical angle of view, degrees' }), // prettier-ignore
    sensorHeight: number(0.1, 1000, 'millimetres; with the angle of view it tells the focal length, and with the f-number how wide the lens opens'), // prettier-ignore
    pixelAspect: number(0.1, 10, 'width of a pixel by its height'),
    near: number(0, 1e9, 'metres from the camera along its axis; anything nearer is clipped'),
    far: numberOrNone(1e-6, 1e9, 'metres from the camera along its axis; anything farther is clipped; null: any'),
    fStop: numberOrNone(0.1, 1000, 'f-number of the lens, which blurs what is out of focus; null: all is sharp'),
    focusDistance: number(1e-4, 1e9, 'metres from the camera, along its axis, to the plane that is in focus'),
  },
  closed,
);

export const MeshRef = Type.Object(
  {
    file: File,
    mesh: whole(0, 1e6, 'which mesh of the file, from 0'),
    primitive: whole(0, 1e6, 'which part of that mesh, from 0'),
  },
  closed,
);

/** Where a moving object stands at a frame; a deforming one has a mesh of its own there. */
const MotionKey = Type.Object(
  { frame: number(-1e6, 1e7, 'frame number, parts allowed'), transform: Matrix, mesh: MaybeId },
  closed,
);

export const ObjectVisibility = Type.Object(
  {
    camera: flag('seen by camera rays'),
    shadow: flag('throws shadows'),
    diffuse: flag('seen by rays after a diffuse or volume event'),
    specular: flag('seen in reflections'),
    transmission: flag('seen through glass'),
    occlusion: flag('seen by occlusion rays'),
  },
  closed,
);

/** As far as one goes: at level 8 a single quad is 65,536. */
export const MOST_LEVELS = 8;

/** How a mesh is subdivided: Catmull–Clark, unless its file says that it is bilinear. */
export const Subdivision = Type.Object(
  {
    level: whole(0, MOST_LEVELS, 'subdivision levels; 0: the mesh as it is. A sheet may ask for fewer'),
    edgePixels: numberOrNone(0.1, 1000, 'pixels; the fewest levels that make every edge so short, `level` at most; null: always all levels'),
    boundary: choice(keysOf(BOUNDARY_RULES), 'where the mesh ends: a smooth curve and sharp corners, a curve alone, or the last faces left out'),
    uvs: choice(keysOf(UV_RULES), 'which borders of UV islands are kept while the rest is smoothed'),
  },
  closed,
); // prettier-ignore

export const SceneObject = Type.Object(
  {
    name: Name,
    shape: choice(['mesh', 'floor'], 'a mesh, or an endless floor in the plane of local X and Z'),
    mesh: MaybeId,
    material: Id,
    transform: Matrix,
    hidden: flag('left out of the render'),
    role: choice(
      ['surface', 'shadow-only', 'cut-out', 'hold-out'],
      'an ordinary surface; unseen but for the shadows on it; unseen and holding out what is behind it; or holding it out before the camera, and an ordinary surface to all other rays',
    ),
    visibility: ObjectVisibility,
    receivesShadows: flag('shaded by what is in between; false: lights reach it all the same'),
    seeThroughShadows: flag('glass: light passes straight through it to what it shades, tinted by its material'),
    thin: flag('glass: each face is a thin wall that bends nothing; false: a solid body'),
    priority: whole(-100, 100, 'where closed glass bodies overlap, the one of higher priority wins'),
    normals: choice(['smooth', 'flat'], 'normals of the mesh, or those of its triangles'),
    facing: choice(['both', 'front', 'back'], 'which side of its triangles exists'),
    subdivision: Subdivision,
    motion: choice(['static', 'transform', 'deforming'], 'whether its keys move it, and what they change'),
    keys: Type.Array(MotionKey, { maxItems: 1000, description: 'keys of its transform by frame, in rising order' }),
  },
  closed,
);

/** Objects that are chosen together, to be moved and set as one. Nothing stands in it: an object may be in several, and moves by itself. */
export const Group = Type.Object(
  { name: Name, objects: Type.Array(Id, { maxItems: 5000, uniqueItems: true, description: 'chosen together with the group' }) },
  closed,
); // prettier-ignore

export type GroupSpec = Static<typeof Group>;
export type CameraSpec = Static<typeof Camera>;
export type ObjectSpec = Static<typeof SceneObject>;
