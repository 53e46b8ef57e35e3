/**
 * Which parts of a scene a file that is named somewhere is for: what breaks in the picture when it does not arrive.
 *
 * @example
 * const owners = new Owners(source, null);
 * owners.of(source.references[0]).objects;   // ['/yard/crate']
 */
import type { ShotDocument } from '../../document/schema.ts';
import { MAP_SLOTS } from '../../document/check-references.ts';
import type { SourceReference, SourceScene } from '../../formats/source-scene.ts';

export interface Owned {
  /** Paths of objects whose shape is in the file. */
  objects: string[];
  /** Numbers of materials that are told in the file. */
  materials: number[];
  /** Numbers of materials of which a part, not an image, comes from the file. */
  parts: number[];
  /** Numbers of materials that wear the image, by whether it is what people see of a surface first. */
  worn: { seen: number[]; other: number[] };
  /** The light around the scene comes from it. */
  lights: boolean;
}

/** Slots whose image is what people see of a surface first. */
const SEEN = ['baseColour', 'emission', 'alpha'];

export class Owners {
  /** Numbers of images by what references to them hold: where they are, or what is written when they are nowhere. */
  private readonly images = new Map<string, number[]>();
  private readonly wornBy = new Map<number, Owned['worn']>();
  private readonly pathsOf = new Map<number, string[]>();

  /** @param document where the scene is a shot of ours */
  constructor(
    private readonly source: SourceScene,
    private readonly document: ShotDocument | null,
  ) {
    source.images.forEach(({ path, resolved, tiles }, image) => {
      const keys = resolved === null ? [`?${path}`] : [resolved, ...tiles];
      for (const key of new Set(keys)) pushTo(this.images, key, image);
    });
    source.materials.forEach(({ textures }, m) => {
      for (const { image, slot } of textures) {
        let worn = this.wornBy.get(image);
        if (!worn) this.wornBy.set(image, (worn = { seen: [], other: [] }));
        const list = SEEN.includes(slot) ? worn.seen : worn.other;
        if (!list.includes(m)) list.push(m);
      }
    });
    for (const { path, mesh, parts } of source.nodes)
      if (mesh >= 0) for (const m of new Set(parts.map(({ material }) => material))) pushTo(this.pathsOf, m, path);
  }

  /** Paths of the objects that wear any of some materials. */
  wearers(materials: number[]): string[] {
    return [...new Set(materials.flatMap((m) => this.pathsOf.get(m) ?? []))];
  }

  of(reference: SourceReference): Owned {
    const out: Owned = { objects: [], materials: [], parts: [], worn: { seen: [], other: [] }, lights: false };
    if (reference.kind === 'image') this.ofImage(reference, out);
    else if (this.document) this.ofShot(this.document, reference, out);
    else if (reference.kind === 'material library') this.ofLibrary(reference, out);
    else if (reference.kind === 'buffer')
      out.objects = this.source.nodes.filter(({ mesh }) => mesh >= 0).map(({ path }) => path);
    else this.ofDocument(reference, out);
    return out;
  }

  private ofImage({ path, resolved }: SourceReference, out: Owned): void {
    const { environment } = this.source;
    for (const image of this.images.get(resolved ?? `?${path}`) ?? []) {
      const worn = this.wornBy.get(image);
      out.worn.seen.push(...(worn?.seen ?? []));
      out.worn.other.push(...(worn?.other ?? []));
      out.lights ||= environment?.image === image;
    }
  }

  /** Pointers say whose it is. */
  private ofShot(document: ShotDocument, { neededBy, path }: SourceReference, out: Owned): void {
    if (neededBy.startsWith('/meshes/')) {
      const ids = Object.entries(document.meshes).flatMap(([mesh, { file }]) => (file === path ? [mesh] : []));
      for (const [id, { mesh, hidden }] of Object.entries(document.objects))
        if (!hidden && mesh !== null && ids.includes(mesh)) out.objects.push(`/${id}`);
      return;
    }
    const maps = idsOfFile(document.maps, path);
    const coats = idsOfFile(document.coats, path);
    this.source.materials.forEach(({ where }, m) => {
      const { coat, ...material } = document.materials[where.slice('/materials/'.length)];
      const isOf = MAP_SLOTS.some((slot) => maps.includes(material[slot])) || coats.includes(coat);
      if (isOf || neededBy.startsWith(`${where}/`)) out.parts.push(m);
    });
  }

  private ofLibrary({ resolved }: SourceReference, out: Owned): void {
    this.source.materials.forEach(({ where, missing }, m) => {
      if (resolved === null ? missing : fileOf(where) === resolved) out.materials.push(m);
    });
  }

  /** A document that another one takes something from: whatever refers to it is what it holds. */
  private ofDocument({ neededBy, resolved }: SourceReference, out: Owned): void {
    const { nodes, materials } = this.source;
    const told = materials.findIndex(({ where }) => where === neededBy);
    const node = nodes.find(({ where }) => where === neededBy);
    if (told >= 0) out.materials.push(told);
    else if (node) out.objects.push(...this.shapesBelow(node.path));
    else {
      // What is neither stands inside the last material that begins before it in the same file.
      const part = this.materialBefore(neededBy);
      if (part >= 0) out.parts.push(part);
      else if (resolved !== null)
        for (const { where, mesh, path } of nodes) if (mesh >= 0 && fileOf(where) === resolved) out.objects.push(path);
    }
  }

  /** Objects at a path and below it; the path itself where no shape is there. */
  private shapesBelow(path: string): string[] {
    const shapes = this.source.nodes.filter((one) => one.mesh >= 0 && `${one.path}/`.startsWith(`${path}/`));
    return shapes.length ? shapes.map((one) => one.path) : [path];
  }

  private materialBefore(where: string): number {
    const [file, line] = [fileOf(where), lineOf(where)];
    let last = -1;
    this.source.materials.forEach((material, m) => {
      if (fileOf(material.where) !== file || lineOf(material.where) >= line) return;
      if (last < 0 || lineOf(material.where) > lineOf(this.source.materials[last].where)) last = m;
    });
    return last;
  }
}

function pushTo<K, V>(map: Map<K, V[]>, key: K, value: V): void {
  const list = map.get(key);
  if (list) list.push(value);
  else map.set(key, [value]);
}

const idsOfFile = (items: Record<string, { kind: string; file?: string }>, path: string): (string | null)[] =>
  Object.entries(items).flatMap(([id, item]) => (item.kind === 'shared' && item.file === path ? [id] : []));

/** The file of a place in it: `props/hive.usda:12`, `yard.gltf images[3]`. */
export const fileOf = (where: string): string => where.replace(/(:\d+| .*)$/, '');
const lineOf = (where: string): number => Number(/:(\d+)$/.exec(where)?.[1] ?? Infinity);
