/** The one picture engine of the page: what it fetches, keeps and draws, against a server that counts. */
import { expect } from 'chai';
import type { RenderSummary } from '../../core/contracts/events.ts';
import { srgbFromLinear } from '../../core/data/colour.ts';
import { createPicture } from '../../core/data/picture.ts';
import { PLAIN_LOOK } from '../../core/picture/look.ts';
import { packPicture } from '../../core/picture/planes.ts';
import type { SourceRef } from '../../web/picture/desk-messages.ts';
import { drawCells } from '../../web/picture/desk/draw.ts';
import { Shelf } from '../../web/picture/desk/shelf.ts';
import { plainCell, renderKey, renderRef } from '../../web/picture/render-source.ts';

const REGION = { x: 4, y: 2, width: 6, height: 4 };
const render = (revision: number): RenderSummary =>
  ({ id: 7, region: REGION, width: 16, height: 9, sheet: 'preview', revision, state: 'active' }) as RenderSummary;

describe('the picture engine', () => {
  const realFetch = globalThis.fetch;
  const asked: string[] = [];
  let level = 0.25;
  let refusal: string | null = null;

  before(() => {
    // Node has no canvas; what is drawn is bytes with a size.
    Object.assign(globalThis, { ImageData: class { constructor(readonly data: Uint8ClampedArray, readonly width: number, readonly height: number) {} } }); // prettier-ignore
    globalThis.fetch = (path) => {
      const url = String(path);
      asked.push(url);
      if (refusal) return Promise.resolve(new Response(JSON.stringify({ error: refusal }), { status: 409 }));
      const names = decodeURIComponent(url.split('passes=')[1]).split(',');
      const channels = names.flatMap((name) => (name === 'cost' ? ['cost'] : ['R', 'G', 'B'].map((c) => `${name}.${c}`))); // prettier-ignore
      const picture = { ...createPicture(REGION.width, REGION.height, channels), x: REGION.x, y: REGION.y };
      for (const plane of picture.channels.values()) plane.fill(level);
      return Promise.resolve(new Response(packPicture(picture, { revision: 1 }) as Uint8Array<ArrayBuffer>));
    };
  });
  after(() => {
    globalThis.fetch = realFetch;
    delete (globalThis as { ImageData?: unknown }).ImageData;
  });
  beforeEach(() => {
    asked.length = 0;
    level = 0.25;
    refusal = null;
  });

  const key = renderKey(render(1));
  const screen = { width: 6, height: 4, scale: 1, aspect: 1, x: -REGION.x, y: -REGION.y };
  const draw = async (shelf: Shelf, layer: string, top: number | null = null) =>
    (await drawCells(shelf, [plainCell(key, layer, screen, top)], PLAIN_LOOK))[0];

  it('draws a pass at its region’s own pixels, by the display curve (IEC 61966-2-1)', async () => {
    const shelf = new Shelf(() => {});
    await shelf.open(key, renderRef(render(1), null));
    const drawn = (await draw(shelf, 'beauty'))!;
    expect([drawn.image.width, drawn.image.height]).to.deep.equal([6, 4]);
    const shown = Math.round(255 * srgbFromLinear(0.25));
    expect([...drawn.image.data.slice(0, 4)]).to.deep.equal([shown, shown, shown, 255]);
    expect(new Set([...drawn.image.data].filter((_, i) => i % 4 < 3)), 'every pixel of it').to.deep.equal(new Set([shown])); // prettier-ignore
  });

  it('fetches a pass once, another when it is wanted, and all anew when the render went on', async () => {
    const shelf = new Shelf(() => {});
    await shelf.open(key, renderRef(render(1), null));
    await draw(shelf, 'beauty');
    await draw(shelf, 'beauty');
    expect(asked).to.deep.equal(['/api/renders/7/picture?passes=beauty']);
    await draw(shelf, 'diffuse.direct');
    expect(asked).to.have.length(2);
    level = 1;
    await shelf.open(key, renderRef(render(2), null));
    expect((await draw(shelf, 'beauty'))!.image.data[0]).to.equal(255);
    expect(asked).to.have.length(3);
    // Who knows an older state of the render does not bring it back.
    await shelf.open(key, renderRef(render(1), null));
    await draw(shelf, 'beauty');
    expect(asked).to.have.length(3);
  });

  it('shows a scale up to the value it is given, so that two sides of a trial compare', async () => {
    const shelf = new Shelf(() => {});
    await shelf.open(key, renderRef(render(1), null));
    level = 3;
    expect((await draw(shelf, 'cost'))!.top, 'by itself: at its greatest values').to.equal(3);
    const half = (await draw(shelf, 'cost', 6))!;
    expect(half.top).to.equal(6);
    expect([...half.image.data.slice(0, 3)], 'the middle of the scale').to.deep.equal([190, 66, 84]);
  });

  it('learns more layers from who knows them, and forgets none', async () => {
    const shelf = new Shelf(() => {});
    const whole = renderRef(render(1), null) as Extract<SourceRef, { kind: 'render' }>;
    const few: SourceRef = { ...whole, layers: whole.layers.slice(0, 1) };
    expect((await shelf.open(key, few)).opened.layers).to.have.length(1);
    expect((await shelf.open(key, whole)).opened.layers).to.have.length(whole.layers.length);
    expect((await shelf.open(key, few)).opened.layers).to.have.length(whole.layers.length);
  });

  it('says why the server refused, and asks again the next time', async () => {
    const shelf = new Shelf(() => {});
    await shelf.open(key, renderRef(render(1), null));
    refusal = 'Tile 3 of render 7 was changed on the disk.';
    const told = await draw(shelf, 'beauty').catch((error: Error) => error.message);
    expect(told).to.equal(refusal);
    refusal = null;
    expect((await draw(shelf, 'beauty'))!.image.data[3]).to.equal(255);
  });
});
