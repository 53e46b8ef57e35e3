/** A render of ours as the desk takes it: its passes as layers, over the region that was rendered. */
import type { RenderSummary } from '../../core/contracts/events.ts';
import type { Region } from '../../core/data/picture.ts';
import type { ShotDocument } from '../../core/document/schema.ts';
import type { LayerRole } from '../../core/formats/layers.ts';
import { PLAIN_LOOK, type Look } from '../../core/picture/look.ts';
import { filmLayout } from '../../core/render/film/film-layout.ts';
import { passList, type PassInfo } from '../../core/render/film/pass-list.ts';
import { desk } from './desk.ts';
import type { Cell, SourceRef } from './desk-messages.ts';

const ROLES: Record<PassInfo['group'], LayerRole> = { Light: 'light', 'Light groups': 'light group', Data: 'data', Shadow: 'data', 'Noise and cost': 'noise', Cut: 'noise', 'Brightest sample': 'noise' }; // prettier-ignore

export const renderKey = ({ id }: RenderSummary): string => `r${id}`;

/** @param document that it is a render of; null: passes that every render has */
export function renderRef(render: RenderSummary, document: ShotDocument | null): SourceRef {
  const { x, y, width, height } = render.region;
  const dataWindow = { minX: x, minY: y, maxX: x + width - 1, maxY: y + height - 1 };
  const passes = passList(document ? filmLayout(document, document.sheets[render.sheet]) : undefined);
  return {
    kind: 'render',
    id: render.id,
    revision: render.revision,
    frame: { minX: 0, minY: 0, maxX: render.width - 1, maxY: render.height - 1 },
    layers: passes.map((pass) => ({
      name: pass.name,
      role: pass.name === 'beauty' ? 'beauty' : ROLES[pass.group],
      channels: pass.channels,
      shown: pass.channels,
      look: pass.look,
      alpha: null,
      dataWindow,
    })),
  };
}

/** A picture by itself: nothing over it, nothing beside it. */
export const plainCell = (key: string, layer: string, screen: Cell['screen'], top: number | null = null): Cell => ({
  key,
  layer,
  screen,
  top,
  against: null,
  balance: {},
  space: null,
  bakedExposure: 0,
  mask: null,
  isNormalised: false,
});

/**
 * One pass of a render over its whole region, or a part of it.
 *
 * @param options.part pixels of the frame; the render's region by default
 * @param options.width of what is drawn, pixels; the part's own by default
 * @param options.height that it may have at most
 * @param options.top where the scale of a one-channel pass ends; its own by default
 * @returns null while nothing of it is rendered. @throws Error in words where the server refuses
 *
 * @example
 * const image = await drawRender(render, { document, pass: 'crossings', view: { exposure: 0, gamma: 1 } });
 */
export async function drawRender(
  render: RenderSummary,
  options: {
    document?: ShotDocument | null;
    pass?: string;
    view?: Pick<Look, 'exposure' | 'gamma'>;
    part?: Region;
    width?: number;
    height?: number;
    top?: number | null;
  } = {},
): Promise<ImageData | null> {
  const { document = null, pass = 'beauty', view, part = render.region, top = null } = options;
  const { width = part.width, height = Infinity } = options;
  const key = renderKey(render);
  const scale = Math.min(width / part.width, height / part.height);
  const screen = {
    width: Math.max(1, Math.round(part.width * scale)),
    height: Math.max(1, Math.round(part.height * scale)),
    scale,
    aspect: 1,
    x: -part.x * scale,
    y: -part.y * scale,
  };
  await desk.ask('open', { key, ref: renderRef(render, document) });
  const [drawn] = await desk.ask('draw', { cells: [plainCell(key, pass, screen, top)], look: { ...PLAIN_LOOK, ...view } }); // prettier-ignore
  return drawn?.image ?? null;
}
