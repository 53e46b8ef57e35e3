/**
 * Makes the frames of the night lantern's push-in that ship with the demo, as they would come from elsewhere: layers
 * named by another habit, mattes with a manifest, frame 1005 missing and frame 1007 cut short.
 * `node --import @oxc-node/core/register scripts/demo-frames.ts`
 */
import { mkdir, writeFile } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { deflateSync } from 'node:zlib';
import { channel, createPicture, type Picture } from '../core/data/picture.ts';
import { lookAt } from '../core/data/transform.ts';
import { idOf, manifestAttributes } from '../core/formats/cryptomatte.ts';
import { writeExr } from '../core/formats/exr/write.ts';
import { compileScene } from '../core/render/compile/compile.ts';
import { pictureOf } from '../core/render/film/film-picture.ts';
import { GROUP } from '../core/render/film/random.ts';
import { loadAssets } from '../core/render/compile/load-assets.ts';
import { settingsOf } from '../core/render/scene/scene.ts';
import { lentByHost } from '../host/kernel.ts';
import { renderFrame } from '../cli/render-frame.ts';
import { buildNightLantern } from '../demo/ha-020/build.ts';

const FRAMES = [1001, 1002, 1003, 1004, 1005, 1006, 1007, 1008];
const MISSING = 1005;
const CUT = 1007;
const SIZE = { width: 192, height: 108 };
const SAMPLES = 16;
/** Metres that the camera goes nearer a frame. */
const STEP = 0.012;

/** Our layers by the names they are given, each a sum. */
const LAYERS: Record<string, string[]> = {
  '': ['beauty'],
  diffuse: ['diffuse.direct', 'diffuse.indirect'],
  reflection: ['specular.direct', 'specular.indirect'],
  refraction: ['transmission.direct', 'transmission.indirect'],
  emission: ['emission'],
  background: ['background'],
  albedo: ['albedo'],
};

const { document, files } = await buildNightLantern();
const folder = join(import.meta.dirname, '../demo/ha-020/frames');
await mkdir(folder, { recursive: true });
const assets = await loadAssets(document, async (path) => files.get(path) ?? null, document.code);
for (const frame of FRAMES) {
  if (frame === MISSING) continue;
  const camera = document.cameras[document.camera];
  const near = (frame - FRAMES[0]) * STEP;
  camera.transform = lookAt([0.1 - near * 0.1, 0.24 - near * 0.2, 0.6 - near], [0.03, 0.09, 0]);
  const sheet = { ...document.sheets.preview, ...SIZE, samples: SAMPLES, seed: frame };
  const scene = compileScene({ ...document, frame }, assets, sheet, lentByHost);
  const region = { x: 0, y: 0, ...SIZE };
  const { films } = await renderFrame(scene, settingsOf(sheet), region, SAMPLES / GROUP, availableParallelism(), () => {}); // prettier-ignore
  const groups = scene.layout.groups.map((group) => `group.${group}`);
  const passes = [...new Set([...Object.values(LAYERS).flat(), ...groups, 'normal', 'depth', 'coverage', 'object', 'object.coverage'])]; // prettier-ignore
  const picture = toFrame(pictureOf(films, region, passes, scene.layout), groups);
  const objects = Object.keys(document.objects).sort();
  const bytes = writeExr(picture, {
    deflate: (raw) => deflateSync(raw, { level: 9 }),
    display: SIZE,
    type: (name) => (name.startsWith('crypto') || name === 'Z' ? 'float' : 'half'),
    attributes: { ...manifestAttributes('crypto_object', objects), samples: String(SAMPLES), comments: 'HA-020 push-in' }, // prettier-ignore
  });
  const kept = frame === CUT ? bytes.subarray(0, Math.round(bytes.length * 0.6)) : bytes;
  await writeFile(join(folder, `lantern-push.${frame}.exr`), kept);
  console.log(`frame ${frame}: ${kept.length} bytes, ${picture.channels.size} channels`);
}

function toFrame(from: Picture, groups: string[]): Picture {
  const { width, height } = from;
  const out = createPicture(width, height, []);
  const sum = (name: string, parts: string[]) =>
    out.channels.set(name, Float32Array.from({ length: width * height }, (_, i) => parts.reduce((s, part) => s + channel(from, part)[i], 0))); // prettier-ignore
  for (const [layer, parts] of Object.entries(LAYERS))
    for (const c of 'RGB')
      sum(
        layer ? `${layer}.${c}` : c,
        parts.map((part) => `${part}.${c}`),
      );
  for (const group of groups) for (const c of 'RGB') sum(`${group.replace('group.', 'lg_')}.${c}`, [`${group}.${c}`]);
  for (const c of 'XYZ') sum(`N.${c}`, [`normal.${c}`]);
  sum('Z', ['depth']);
  sum('A', ['coverage']);
  const names = Object.keys(document.objects).sort();
  const ids = names.map(idOf);
  const object = channel(from, 'object');
  out.channels.set('crypto_object00.R', object.map((one) => (one > 0 ? ids[one - 1] : 0))); // prettier-ignore
  out.channels.set('crypto_object00.G', channel(from, 'object.coverage'));
  return out;
}
