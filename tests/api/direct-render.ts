/** What one thread gives in one go, by the path in TypeScript: the reference for renders however they were made. */
import { expect } from 'chai';
import { compileScene } from '../../core/render/compile/compile.ts';
import { pictureOf } from '../../core/render/film/film-picture.ts';
import { createFilm } from '../../core/render/film/film.ts';
import { loadAssets } from '../../core/render/compile/load-assets.ts';
import { renderGroups } from '../../core/render/frame/render-tile.ts';
import { settingsOf } from '../../core/render/scene/scene.ts';
import type { SmallShot } from './small-shot.ts';

export type Bits = Map<string, Buffer>;

/** A small shot's preview at other counts of samples; its code does not matter to it. */
const made = new Map<number, Promise<Bits>>();

/** @param shot a small shot with no setting changed but its samples */
export function direct(shot: SmallShot, samples: number): Promise<Bits> {
  if (!made.has(samples)) made.set(samples, render(shot, samples));
  return made.get(samples)!;
}

async function render({ document, files }: SmallShot, samples: number): Promise<Bits> {
  const sheet = document.sheets.preview;
  const scene = compileScene(document, await loadAssets(document, async (p) => files.get(p) ?? null, 'x'), sheet);
  const film = createFilm({ x: 0, y: 0, width: sheet.width, height: sheet.height });
  renderGroups(scene, settingsOf(sheet), film, samples / 4);
  const { channels } = pictureOf([film], film.region, ['beauty', 'cost', 'cut.any', 'error.beauty']);
  return new Map([...channels].map(([name, plane]) => [name, Buffer.from(plane.slice().buffer)]));
}

export function expectSame(a: Bits, b: Bits, what: string) {
  for (const [name, bytes] of a) expect(bytes.equals(b.get(name)!), `${what}: ${name}`).to.equal(true);
}
