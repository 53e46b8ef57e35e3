/**
 * Films as a multi-layer EXR: every pass, mattes of objects and materials by name, and what it took as attributes.
 *
 * @example
 * const bytes = filmExr(films, region, scene.layout, { document, sheet, deflate, statistics: { samples: 64 } });
 */
import { materialIds, objectIds } from '../../document/object-names.ts';
import type { Picture, Region } from '../../data/picture.ts';
import { channel } from '../../data/picture.ts';
import type { Sheet, ShotDocument } from '../../document/schema.ts';
import { idOf, manifestAttributes } from '../../formats/cryptomatte.ts';
import type { Deflate } from '../../formats/exr/compression/pack.ts';
import { writeExr } from '../../formats/exr/write.ts';
import { pictureOf } from './film-picture.ts';
import type { Film } from './film.ts';
import { passList } from './pass-list.ts';
import type { FilmLayout } from './passes.ts';

export interface FilmExrOptions {
  document: ShotDocument;
  sheet: Sheet;
  deflate: Deflate;
  /** Numbers that go into the header, each `dusting/…`. */
  statistics: Record<string, number>;
}

export function filmExr(
  films: Film[],
  region: Region,
  layout: FilmLayout,
  { document, sheet, deflate, statistics }: FilmExrOptions,
): Uint8Array {
  const passes = passList(layout).map((pass) => pass.name);
  const picture = pictureOf(films, region, passes, layout);
  const names = { object: objectIds(document), material: materialIds(document) };
  const attributes: Record<string, string> = { software: 'Dusting' };
  for (const kind of ['object', 'material'] as const) {
    const titles = names[kind].map((key) => document[`${kind}s`][key].name || key);
    addMatte(picture, kind, titles);
    Object.assign(attributes, manifestAttributes(`crypto_${kind}`, titles));
  }
  for (const [name, value] of Object.entries(statistics)) attributes[`dusting/${name}`] = String(value);
  return writeExr(picture, {
    deflate,
    display: sheet,
    rename: (name) => (name.startsWith('beauty.') ? name.slice(7) : name),
    attributes,
  });
}

/** Ours keep what covers a pixel most: one rank. */
function addMatte(picture: Picture, kind: 'object' | 'material', titles: string[]): void {
  const ids = titles.map(idOf);
  const numbers = channel(picture, kind);
  picture.channels.set(`crypto_${kind}00.R`, numbers.map((one) => (one > 0 ? ids[one - 1] : 0))); // prettier-ignore
  picture.channels.set(`crypto_${kind}00.G`, channel(picture, `${kind}.coverage`));
}
