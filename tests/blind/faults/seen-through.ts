/** Tints of panes that are placed wrong, lines of the environment that panes show, and glass that stops shadow rays. */
import type { Mesh } from '../../../core/data/mesh.ts';
import { translation } from '../../../core/data/transform.ts';
import { defaultMap, evenEnvironment } from '../../../core/document/defaults.ts';
import { sphere } from '../../unit/helpers.ts';
import type { Draft } from '../shots.ts';
import { clearGlass, type Fault } from './fault.ts';

/** A pane of so many metres that faces the camera, its UVs from 0 to `uv`. */
const pane = (width: number, height: number, uv = 1): Mesh => ({
  positions: Float32Array.from([-width / 2, 0, 0, width / 2, 0, 0, width / 2, height, 0, -width / 2, height, 0]),
  normals: null,
  uvs: Float32Array.from([0, 0, uv, 0, uv, uv, 0, uv]),
  indices: Uint32Array.from([0, 1, 2, 0, 2, 3]),
});

/** A run that is dark at its foot (0) and clear at its head, or the other way. */
const run = (draft: Draft, darkAt: 0 | 1) => {
  const [dark, clear] = [draft.draw.colour(0.01, 0.05), draft.draw.colour(0.85, 0.98)];
  const stops = [{ at: 0, colour: darkAt === 0 ? dark : clear }, { at: 1, colour: darkAt === 0 ? clear : dark }]; // prettier-ignore
  return { ...defaultMap('gradient'), axis: 'v' as const, stops };
};

/** Three tinted panes in a row. @param change of the last one's map, and the UVs of its mesh */
function row(draft: Draft, uv: number, change: object): void {
  const { document, draw } = draft;
  document.environment = evenEnvironment(draw.colour(0.4, 0.6));
  const tint = run(draft, draw.one([0, 1] as const));
  for (let k = 0; k < 3; k++) {
    const id = `pane${k}`;
    document.maps[id] = k === 2 ? { ...tint, ...change } : { ...tint };
    draft.put(id, pane(0.8, 1, k === 2 ? uv : 1), { ...clearGlass, baseColourMap: id }, { thin: true, transform: translation((k - 1) * 0.95, 0.05, 1.6) }); // prettier-ignore
  }
}

export const seenThroughFaults: Fault[] = [
  {
    cause: 'glass.tint-upside-down',
    isUpstream: true,
    plant(draft) {
      const { document, draw } = draft;
      if (draw.next() < 0.5) return row(draft, 1, { scale: [1, -1], offset: [0, 1] });
      // One pane before everything: its dark end at the foot, where things stand.
      document.environment = evenEnvironment(draw.colour(0.4, 0.6));
      const tint = run(draft, 0);
      const [dark, clear] = tint.stops;
      document.maps.tint = { ...tint, stops: [dark, { ...dark, at: 0.4 }, { ...clear, at: 0.6 }] };
      draft.put('pane', pane(3.4, 3), { ...clearGlass, baseColourMap: 'tint' }, { thin: true, transform: translation(0, 0.02, 0.95) }); // prettier-ignore
    },
  },
  {
    cause: 'glass.tint-mapping-copied',
    isUpstream: true,
    plant(draft) {
      const times = draft.draw.within(12, 40);
      // What fits UVs of metres, on a mesh whose UVs go once around.
      row(draft, 1, { scale: [1 / times, 1 / times] });
    },
  },
  {
    cause: 'glass.environment-line',
    isUpstream: true,
    plant(draft) {
      const { document, draw } = draft;
      // In the upper half of the frame, wherever the camera looks.
      const { transform, fieldOfView } = document.cameras.main;
      const [x, y, z] = transform.slice(12, 15);
      const pitch = (Math.atan2(0.5 - y, Math.hypot(x, z)) * 180) / Math.PI;
      const at = 0.5 + (pitch + draw.within(0.12, 0.2) * fieldOfView) / 180;
      const [low, high] = [draw.colour(0.05, 0.12), draw.colour(0.5, 0.8)];
      document.environment = {
        ...document.environment,
        kind: 'gradient',
        intensity: 1,
        stops: [{ at: 0, colour: low }, { at, colour: low }, { at: at + 0.004, colour: high }, { at: 1, colour: high }], // prettier-ignore
        visibility: { ...document.environment.visibility, camera: false },
      };
      for (const wall of ['back', 'left', 'right']) delete document.objects[wall];
      const id = draft.things[0];
      document.objects[id].transform = translation(-3, 0.3, -2);
      draft.put('pane', pane(2.6, 1.9), clearGlass, { thin: true, transform: translation(draw.within(-0.2, 0.2), 0.3, 1.4) }); // prettier-ignore
    },
  },
  {
    cause: 'glass.camera-inside',
    isUpstream: true,
    plant(draft) {
      const { document, draw } = draft;
      const [x, y, z] = document.cameras.main.transform.slice(12, 15);
      const at = translation(x + draw.within(-0.05, 0.05), y + draw.within(-0.05, 0.05), z + draw.within(-0.05, 0.05));
      draft.put('globe', sphere(draw.within(0.15, 0.4), 48), clearGlass, { transform: at });
    },
  },
  {
    cause: 'glass.blocks-shadow-rays',
    plant(draft) {
      const { document, draw } = draft;
      document.environment = evenEnvironment(draw.colour(0.06, 0.1));
      document.lights = {};
      // Clean, so that noise is not the fault.
      draft.sheet.samples = 256;
      draft.light('lamp', { kind: 'point', radius: 0, intensity: draw.within(20, 40), transform: translation(draw.within(-1.5, 1.5), 2.6, draw.within(0.5, 2)) }); // prettier-ignore
      const [id] = draft.things;
      draft.meshes.set(id, sphere(0.45, 48));
      document.objects[id].transform = translation(draw.within(-0.3, 0.3), 0.5, 1);
      Object.assign(document.materials[id], { ...clearGlass, metallic: 0 });
    },
  },
];
