/** A picture that is kept for looking: its planes, smaller versions of them, and what can be asked of it. */
import type { Region } from '../../core/data/picture.ts';
import type { ExrWindow } from '../../core/formats/exr/header.ts';
import { manifestsOf, matteOf, namedAt, type MatteSet } from '../../core/formats/cryptomatte.ts';
import { coloursOf, layersOf } from '../../core/formats/layers.ts';
import type { PictureFile } from '../../core/formats/picture-file.ts';
import type { Colours } from '../../core/picture/compare.ts';
import { fullName, picturesOf } from '../../core/picture/examine.ts';
import { luminanceOf } from '../../core/picture/measured.ts';
import type { HealthFinding, HealthInput } from '../../core/picture/health/check.ts';
import { maskOf } from '../../core/picture/health/health.ts';
import { layerLook } from '../../core/picture/layer-look.ts';
import { Pyramid } from '../../core/picture/pyramid.ts';
import type { DeskLayer, Opened } from './desk-messages.ts';

export interface Plane {
  values: ArrayLike<number>;
  /** Where it stands, in pixels of the display window. */
  window: Region;
}

const regionOf = (d: ExrWindow, w: ExrWindow): Region => ({
  x: d.minX - w.minX,
  y: d.minY - w.minY,
  width: d.maxX - d.minX + 1,
  height: d.maxY - d.minY + 1,
});

export class Source {
  readonly planes = new Map<string, Plane>();
  private readonly pyramids = new Map<string, Pyramid>();
  private readonly masks = new Map<string, Plane>();
  private pictures: HealthInput[] = [];
  private matteSets: MatteSet[] = [];
  bytes = 0;

  constructor(readonly opened: Opened) {}

  /** Of a file, perhaps while it is decoded. */
  static ofFile(file: PictureFile): Source {
    const flat = file.parts.filter((part) => !part.isDeep);
    const { displayWindow, pixelAspect } = file.parts[0];
    const layers = flat.flatMap((part): DeskLayer[] =>
      layersOf(part.channels.map(({ name }) => fullName(part, name, file.parts.length))).map((layer) => {
        const { look, channels: shown } = layerLook(layer);
        const alpha = layer.channels.find((name) => /(^|\.)(a|alpha)$/i.test(name)) ?? null;
        return { ...layer, look, shown, alpha, dataWindow: part.dataWindow };
      }),
    );
    const sets = file.parts.flatMap((part) => manifestsOf(part.attributes));
    const mattes = sets.map(({ name, ids }) => ({ name, names: [...ids.keys()].sort() }));
    const source = new Source({ displayWindow, pixelAspect, layers, mattes, done: 1, firstMs: 0, allMs: 0 });
    source.matteSets = sets;
    source.pictures = picturesOf(file.parts);
    for (const part of flat)
      for (const [name, values] of part.planes)
        source.put(fullName(part, name, file.parts.length), { values, window: regionOf(part.dataWindow, displayWindow) }); // prettier-ignore
    return source;
  }

  put(channel: string, plane: Plane): void {
    this.bytes += plane.values.length * 4;
    this.planes.set(channel, plane);
    this.pyramids.delete(channel);
  }

  /** More of its pixels are here than before. */
  filled(): void {
    for (const pyramid of this.pyramids.values()) pyramid.forget();
    this.masks.clear();
  }

  /** By its name; the beauty of another picture is its beauty here, whatever either is called. */
  layer(name: string): DeskLayer | null {
    const { layers } = this.opened;
    const beauty = () =>
      layersOf([`${name}.R`])[0].role === 'beauty' ? layers.find(({ role }) => role === 'beauty') : undefined;
    return layers.find((layer) => layer.name === name) ?? beauty() ?? null;
  }

  pyramid(channel: string, way: 'mean' | 'first'): Pyramid | null {
    const plane = this.planes.get(channel);
    if (!plane) return null;
    let pyramid = this.pyramids.get(channel);
    if (!pyramid) this.pyramids.set(channel, (pyramid = new Pyramid(plane.values, plane.window.width, plane.window.height, way))); // prettier-ignore
    return pyramid;
  }

  /** A layer as colours: its own, or its first channel three times; null while it is not here. */
  colours(name: string): Colours | null {
    const layer = this.layer(name);
    const planes =
      layer && (coloursOf(layer) ?? [0, 1, 2].map(() => layer.shown[0])).map((one) => this.planes.get(one));
    if (!planes || !planes.every((plane) => plane !== undefined)) return null;
    return { ...planes[0].window, planes: planes.map(({ values }) => values) as unknown as Colours['planes'] };
  }

  /** Luminance of a layer of colours, and the standard error that came with it. */
  luminance(name: string): { y: Float32Array; sigma: ArrayLike<number> | null; window: Region } | null {
    const layer = this.layer(name);
    const colours = layer && coloursOf(layer);
    if (!colours || !colours.every((one) => this.planes.has(one))) return null;
    const planes = new Map(colours.map((one) => [one, this.planes.get(one)!.values]));
    const sigma = this.planes.get(`error.${layer.name || 'beauty'}`)?.values ?? null;
    return { y: luminanceOf(colours, planes), sigma, window: this.planes.get(colours[0])!.window };
  }

  mask(wanted: { finding: HealthFinding } | { matte: string; of: string }): Plane | null {
    const key = JSON.stringify(wanted);
    const known = this.masks.get(key);
    if (known) return known;
    const made = 'finding' in wanted ? this.findingMask(wanted.finding) : this.matteMask(wanted.matte, wanted.of);
    if (made) this.masks.set(key, made);
    return made;
  }

  private findingMask(finding: HealthFinding): Plane | null {
    // Findings of sums name layers, others channels.
    const owns = (picture: HealthInput) => finding.channels.some((name) => [...picture.planes.keys()].some((one) => one === name || one.startsWith(`${name}.`))); // prettier-ignore
    const picture = this.pictures.find(owns);
    const values = picture && maskOf(finding, picture);
    return values ? { values, window: this.planes.get(picture.planes.keys().next().value!)!.window } : null;
  }

  private matteMask(set: string, of: string): Plane | null {
    const found = this.matteSets.find(({ name }) => name === set);
    const channels = [...this.planes.keys()];
    const first = channels.find((name) => name.startsWith(set));
    if (!found || first === undefined) return null;
    const window = this.planes.get(first)!.window;
    const planes = new Map([...this.planes].filter(([name]) => name.startsWith(set)).map(([name, { values }]) => [name, values])); // prettier-ignore
    return { values: matteOf(found, of, planes, channels).map((covered) => Number(covered > 0.5)), window };
  }

  /** What covers a pixel most, by every set of mattes. */
  namedAt(x: number, y: number): { set: string; name: string }[] {
    return this.matteSets.flatMap((set) => {
      const own = [...this.planes].filter(([name]) => name.startsWith(set.name));
      const window = own[0]?.[1].window;
      if (!window || x < window.x || y < window.y || x >= window.x + window.width || y >= window.y + window.height) return []; // prettier-ignore
      const at = (y - window.y) * window.width + x - window.x;
      const name = namedAt(set, at, new Map(own.map(([channel, { values }]) => [channel, values])), own.map(([channel]) => channel)); // prettier-ignore
      return name === null ? [] : [{ set: set.name, name }];
    });
  }
}

/** By how much B has to grow to be as wide as A. */
export function sizeFactor(a: Source, b: Source): number {
  const width = ({ displayWindow: w }: Opened) => w.maxX - w.minX + 1;
  return width(a.opened) / width(b.opened);
}
