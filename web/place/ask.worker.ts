/** Beside the page: compiles the shot once and answers what lights a place of it and what its preview shows, with values that are set and not kept. */
import type { Triple } from '../../core/data/placement.ts';
import { canonicalText } from '../../core/document/canonical.ts';
import { withValues } from '../../core/document/set-values.ts';
import { skyAt, tellEnvironment } from '../../core/diagnose/lighting/tell-environment.ts';
import { tellPlace } from '../../core/diagnose/shadows/tell-place.ts';
import { tellRegion } from '../../core/diagnose/shadows/tell-region.ts';
import { PLAIN_MEANS, type Means } from '../../core/geometry/scene-geometry.ts';
import type { Sheet, ShotDocument } from '../../core/document/schema.ts';
import { tellOcclusion } from '../../core/occlusion/tell-occlusion.ts';
import { MapTeller } from '../../core/shadow-map/tell-maps.ts';
import { askPlace, type PlaceAnswer } from '../../core/place/ask.ts';
import { askRegion } from '../../core/place/ask-region.ts';
import { LightWalk } from '../../core/place/light-walk.ts';
import type { Assets } from '../../core/render/compile/assets.ts';
import { sceneKey } from '../../core/render/scene/scene-key.ts';
import { compileScene } from '../../core/render/compile/compile.ts';
import { loadAssets } from '../../core/render/compile/load-assets.ts';
import { settingsOf, type CompiledScene } from '../../core/render/scene/scene.ts';
import { lentByPage } from '../live/kernels.ts';
import type { LiveVersion } from '../live/live-messages.ts';
import { versionFiles } from '../remote/version-files.ts';
import { kindOf, type AskAnswer, type AnyAsked, type AskRequest, type DrawnWay } from './ask-messages.ts';

let version: LiveVersion | null = null;
let assets: { key: string; loading: Promise<Assets> } | null = null;
let last: { key: string; scene: CompiledScene } | null = null;
let means: Promise<Means> | null = null;

/** The truth of the last light whose maps were asked for. */
let lastMaps: { key: string; teller: MapTeller } | null = null;

// One after the other; of questions of a kind that wait only the last is answered.
const newest = new Map<string, number>();
let queue = Promise.resolve();
self.onmessage = ({ data }: MessageEvent<AskRequest>) => {
  const kind = kindOf(data.question);
  newest.set(kind, data.turn);
  version = data.version ?? version;
  queue = queue.then(async () => {
    if (data.turn !== newest.get(kind)) return;
    try {
      answer({ turn: data.turn, asked: await ask(data) });
    } catch (error) {
      answer({ turn: data.turn, problem: (error as Error).message });
    }
  });
};

const answer = (message: AskAnswer) => self.postMessage(message);

async function ask({ sheet: name, values, question }: AskRequest): Promise<AnyAsked> {
  const document = withValues(version!.document, [name], values);
  const sheet = document.sheets[name];
  const { scene, key } = await compiled(document, sheet);
  const begun = performance.now();
  const settings = settingsOf(sheet);
  const walk = new LightWalk(scene, document, settings);
  if ('occlusion' in question) return { occlusion: tellOcclusion(scene, sheet), took: performance.now() - begun };
  if ('mapsOf' in question) {
    const own = `${question.mapsOf} ${key}`;
    if (lastMaps?.key !== own) lastMaps = { key: own, teller: new MapTeller(walk, question.mapsOf) };
    const maps = lastMaps.teller.tell(document.previewShadows);
    return { maps, took: performance.now() - begun };
  }
  const answer =
    'region' in question ? askRegion(walk, question.region, { settings, noiseTarget: sheet.grainTarget }) : null;
  const pixel = 'region' in question ? answer?.telling.pixel : question.pixel;
  const place = pixel ? walk.surfaceAt(...pixel) : null;
  if (!pixel || !place)
    return { told: null, region: null, environment: null, ways: [], took: performance.now() - begun };
  const found = answer?.telling.answer ?? askPlace(walk, place, { settings, noiseTarget: sheet.grainTarget, pixel });
  const region = answer && tellRegion(walk, sheet, answer);
  const told = region?.telling ?? tellPlace(walk, sheet, pixel, found);
  const took = performance.now() - begun;
  const environment = tellEnvironment(walk, [place], { direct: told.direct, environment: skyAt(told) });
  return { told, region, environment, ways: waysOf(walk, found), took };
}

/** What stands as it stood is not compiled again; a preview's shadows are no part of it. */
async function compiled(document: ShotDocument, sheet: Sheet): Promise<{ key: string; scene: CompiledScene }> {
  const key = sceneKey({ ...document, previewShadows: null }, sheet);
  if (last?.key !== key) {
    means ??= globalThis.crossOriginIsolated ? lentByPage() : Promise.resolve(PLAIN_MEANS);
    const loaded = await assetsOf();
    last = { key, scene: compileScene(document, loaded, sheet, await means) };
  }
  return last;

  function assetsOf(): Promise<Assets> {
    const { meshes, textures, maps, coats } = document;
    const files = canonicalText([version!.manifest, meshes, textures, maps, coats]);
    if (assets?.key === files) return assets.loading;
    const mine = { key: files, loading: loadAssets(document, versionFiles(version!.manifest), document.code, 'stand in') }; // prettier-ignore
    assets = mine;
    // A failure is not kept: the server may have been away.
    mine.loading.catch(() => assets === mine && (assets = null));
    return mine.loading;
  }
}

/** Parts of a way that are looked at for whether the camera sees them. */
const STEPS = 32;

function waysOf(walk: LightWalk, { place, lights }: PlaceAnswer): DrawnWay[] {
  return lights.flatMap(({ light, direction, angle, metres, blockers }) => {
    // What is all around has no way.
    if (!direction || angle === null) return [];
    // A far light's way goes as far as what stands in it, or as the camera is away.
    const end = metres ?? Math.max(place.metres, ...blockers.map((blocker) => 1.2 * blocker.metres));
    const way: [number, number][] = [];
    for (let k = 0; k <= STEPS; k++) {
      const at = walk.pixelOf(place.point.map((c, a) => c + (direction[a] * end * k) / STEPS) as Triple);
      if (!at) break;
      way.push(at);
    }
    return [{ id: walk.scene.lightIds[light], way, met: blockers.map(({ at }) => walk.pixelOf(at)) }];
  });
}
