/** Beside the page: reads a version's files, compiles scenes with values set, and turns what is traced into display bytes. */
import { grainOf } from '../../core/data/grain.ts';
import { luminance } from '../../core/data/colour.ts';
import { canonicalText } from '../../core/document/canonical.ts';
import { withValues, type ControlValues } from '../../core/document/set-values.ts';
import type { ShotDocument } from '../../core/document/schema.ts';
import type { Means } from '../../core/geometry/scene-geometry.ts';
import { viewColour, type View } from '../../core/picture/view.ts';
import type { Assets } from '../../core/render/compile/assets.ts';
import { sceneKey } from '../../core/render/scene/scene-key.ts';
import { compileScene } from '../../core/render/compile/compile.ts';
import { loadAssets } from '../../core/render/compile/load-assets.ts';
import type { LivePlanes } from '../../core/render/frame/live-share.ts';
import { settingsOf } from '../../core/render/scene/scene.ts';
import { versionFiles } from '../remote/version-files.ts';
import { lentByPage, scenePlaces } from './kernels.ts';
import type { LiveScene, LiveVersion, PrepareAnswer, PrepareRequest } from './live-messages.ts';

/** The sheet that is looked at. */
const SHEET = 'preview';

let version: LiveVersion | null = null;
let means: Promise<Means> | null = null;
let places: ReturnType<typeof scenePlaces> | null = null;
let assets: { key: string; loading: Promise<Assets> } | null = null;
let last: { text: string; live: LiveScene } | null = null;
let scenes = 0;

// One after the other: a change that comes while a scene is compiled waits for it.
let queue = Promise.resolve();
self.onmessage = ({ data }: MessageEvent<PrepareRequest>) => {
  queue = queue.then(() => take(data));
};

async function take(request: PrepareRequest): Promise<void> {
  if (request.do === 'version') {
    ({ version } = request);
    return;
  }
  try {
    answer(request.do === 'prepare' ? await prepare(request.turn, request.values) : draw(request));
  } catch (error) {
    answer({ turn: request.turn, problem: (error as Error).message });
  }
}

const answer = (message: PrepareAnswer) => self.postMessage(message);

async function prepare(turn: number, values: ControlValues): Promise<PrepareAnswer> {
  const document = withValues(version!.document, [SHEET], values);
  const sheet = document.sheets[SHEET];
  const text = sceneKey(document, sheet);
  if (last?.text !== text) {
    const lent = await (means ??= lentByPage());
    const scene = compileScene(document, await assetsOf(document, version!.manifest), sheet, lent);
    const like = last && { geometry: last.live.scene.geometry, place: last.live };
    const place = (await (places ??= scenePlaces())).place(scene, like);
    last = { text, live: { key: ++scenes, scene, ...place } };
  }
  return { turn, settings: settingsOf(sheet), live: last.live };
}

/** Files are read again only when what the document refers to changes. */
function assetsOf(document: ShotDocument, manifest: Record<string, string>): Promise<Assets> {
  const { meshes, textures, maps, coats } = document;
  const key = canonicalText([manifest, meshes, textures, maps, coats]);
  if (assets?.key === key) return assets.loading;
  const loading = loadAssets(document, versionFiles(manifest), document.code, 'stand in');
  const mine = { key, loading };
  assets = mine;
  // A failure is not kept: the server may have been away.
  loading.catch(() => {
    if (assets === mine) assets = null;
  });
  return loading;
}

interface Drawing {
  turn: number;
  planes: LivePlanes;
  region: { width: number; height: number };
  view: View;
}

function draw({ turn, planes, region, view }: Drawing): PrepareAnswer {
  const bytes = new Uint8ClampedArray(region.width * region.height * 4);
  viewColour(planes.red, planes.green, planes.blue, view, bytes);
  const samples = planes.samples.reduce((sum, n) => sum + n, 0) / planes.samples.length;
  const hasErrors = planes.samples.every((n) => n > 4);
  const light = hasErrors ? planes.red.map((r, i) => luminance(r, planes.green[i], planes.blue[i])) : null;
  const grain = light && grainOf(light, planes.error);
  return { turn, image: new ImageData(bytes, region.width, region.height), grain, samples };
}
