/** Compiled scenes of a worker process, kept for the few documents that are being rendered. */
import { eq } from 'drizzle-orm';
import { LRUCache } from 'lru-cache';
import { canonicalText } from '../../core/document/canonical.ts';
import type { JsonPatch } from '../../core/document/patch.ts';
import type { SheetName, ShotDocument } from '../../core/document/schema.ts';
import { isSameGeometry } from '../../core/geometry/scene-geometry.ts';
import type { Assets } from '../../core/render/compile/assets.ts';
import { compileScene } from '../../core/render/compile/compile.ts';
import { sceneKey } from '../../core/render/scene/scene-key.ts';
import { sceneSheetOf, type SceneSheet } from '../../core/render/scene/scene-sheet.ts';
import { loadAssets } from '../../core/render/compile/load-assets.ts';
import type { CompiledScene } from '../../core/render/scene/scene.ts';
import type { Context } from '../context.ts';
import { versions } from '../db/schema.ts';
import { notFound } from '../errors.ts';
import { lentByHost, packScene, type PackedScene } from '../../host/kernel.ts';
import { readerOfManifest, withFiles } from '../manifest.ts';
import { patchedDocument } from '../apart/work/document.ts';
import { sharedAssets } from './shared-assets.ts';

export interface LoadedScene {
  document: ShotDocument;
  /** In memory that threads share. */
  assets: Assets;
  scene: CompiledScene;
  /** Its geometry as the kernel reads it, shared by all threads. */
  packed: PackedScene;
}

type Compiled = Pick<LoadedScene, 'scene' | 'packed'>;

/** Enough that the scenes of a sweep do not push each other out. */
const KEPT = 12;
/** Documents, each with the settings of a render. */
const ASKED_KEPT = 32;

/** What a render is made of, and by what its parts are known. */
interface Asked {
  /** Text. */
  manifest: string;
  document: ShotDocument;
  sheet: SceneSheet;
  assetsKey: string;
  sceneKey: string;
}

export class Scenes {
  private readonly asked = new LRUCache<string, Promise<Asked>>({ max: ASKED_KEPT });
  private readonly compiled = new LRUCache<string, Promise<Compiled>>({ max: KEPT });
  /** Meshes and textures by manifest: a change of settings reads no file again. */
  private readonly assets = new LRUCache<string, Promise<Assets>>({ max: KEPT });

  constructor(private readonly context: Context) {}

  /**
   * The scene of a version's document with a patch on it, for the frame of one of its sheets.
   * @param files hashes by path of files beside the version's, or in the place of some
   */
  async get(
    versionId: number,
    patch: JsonPatch,
    sheetName: SheetName,
    files: Record<string, string> = {},
  ): Promise<LoadedScene> {
    const { manifest, document, sheet, assetsKey, sceneKey } = await keep(
      this.asked,
      `${versionId} ${sheetName} ${canonicalText(patch)} ${canonicalText(files)}`,
      () => this.ask(versionId, patch, sheetName, files),
    );
    const assets = await keep(this.assets, assetsKey, () => {
      const read = readerOfManifest(this.context.blobs, manifest);
      return loadAssets(document, read, document.code, 'stand in').then(sharedAssets);
    });
    const compiled = await keep(this.compiled, sceneKey, () => this.compile(document, assets, sheet));
    return { document, assets, ...compiled };
  }

  private async ask(
    versionId: number,
    patch: JsonPatch,
    sheetName: SheetName,
    files: Record<string, string>,
  ): Promise<Asked> {
    const [version] = await this.context.db.select().from(versions).where(eq(versions.id, versionId));
    if (!version) throw notFound(`version ${versionId}`);
    const document = patchedDocument(version, patch);
    const sheet = sceneSheetOf(document.sheets[sheetName]);
    const manifest = withFiles(version.manifest, files);
    const references = [document.meshes, document.textures, document.maps, document.coats];
    return {
      manifest,
      document,
      sheet,
      assetsKey: manifest + canonicalText(references),
      sceneKey: manifest + sceneKey(document, sheet),
    };
  }

  private async compile(document: ShotDocument, assets: Assets, sheet: SceneSheet): Promise<Compiled> {
    const scene = compileScene(document, assets, sheet, lentByHost);
    const others = (await Promise.allSettled(this.compiled.values())).flatMap((r) => (r.status === 'fulfilled' ? [r.value] : [])); // prettier-ignore
    const alike = others.find((other) => isSameGeometry(other.scene.geometry, scene.geometry));
    return { scene, packed: packScene(scene, alike) };
  }
}

/** What stands under `key`, made if need be. */
function keep<T>(cache: LRUCache<string, Promise<T>>, key: string, make: () => Promise<T>): Promise<T> {
  const present = cache.get(key);
  if (present) return present;
  const made = make();
  cache.set(key, made);
  // A failure is not kept: it may have been a file that was not there yet.
  made.catch(() => cache.delete(key));
  return made;
}
