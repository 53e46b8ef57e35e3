/** Compiled scenes of a worker process, kept for the few documents that are being rendered. */
import { eq } from 'drizzle-orm';
import { canonicalText } from '../../core/document/canonical.ts';
import type { JsonPatch } from '../../core/document/patch.ts';
import type { SheetName, ShotDocument } from '../../core/document/schema.ts';
import type { Assets } from '../../core/render/assets.ts';
import { compileScene } from '../../core/render/compile.ts';
import { loadAssets } from '../../core/render/load-assets.ts';
import type { CompiledScene } from '../../core/render/scene.ts';
import type { Context } from '../context.ts';
import { versions } from '../db/schema.ts';
import { notFound } from '../errors.ts';
import { lentByHost, packScene, type PackedScene } from '../../host/kernel.ts';
import { patchedDocument } from './renders.ts';
import { sharedAssets } from './shared-assets.ts';

export interface LoadedScene {
  document: ShotDocument;
  /** In memory that threads share. */
  assets: Assets;
  scene: CompiledScene;
  /** Its geometry as the kernel reads it, shared by all threads. */
  packed: PackedScene;
}

const KEPT = 8;
export class Scenes {
  private readonly loaded = new Map<string, Promise<LoadedScene>>();
  /** Meshes and textures by manifest: a change of settings reads no file again. */
  private readonly assets = new Map<string, Promise<Assets>>();

  constructor(private readonly context: Context) {}

  /** The scene of a version's document with a patch on it, for the frame of one of its sheets. */
  get(versionId: number, patch: JsonPatch, sheet: SheetName): Promise<LoadedScene> {
    return keep(this.loaded, `${versionId} ${sheet} ${canonicalText(patch)}`, async () => {
      const [version] = await this.context.db.select().from(versions).where(eq(versions.id, versionId));
      if (!version) throw notFound(`version ${versionId}`);
      const document = patchedDocument(version, patch);
      const references = canonicalText([document.meshes, document.textures, document.maps, document.coats]);
      const assets = await keep(this.assets, version.manifest + references, () => {
        const manifest = JSON.parse(version.manifest) as Record<string, string>;
        const read = async (path: string) => (manifest[path] ? this.context.blobs.get(manifest[path]) : null);
        return loadAssets(document, read, document.code, 'stand in').then(sharedAssets);
      });
      const scene = compileScene(document, assets, document.sheets[sheet], lentByHost);
      return { document, assets, scene, packed: packScene(scene) };
    });
  }
}

/** What stands under `key`, made if need be; the least recently used goes when there are too many. */
function keep<T>(map: Map<string, Promise<T>>, key: string, make: () => Promise<T>): Promise<T> {
  const present = map.get(key) ?? make();
  map.delete(key);
  map.set(key, present);
  // A failure is not kept: it may have been a file that was not there yet.
  present.catch(() => map.delete(key));
  if (map.size > KEPT) map.delete(map.keys().next().value!);
  return present;
}
