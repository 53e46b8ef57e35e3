/** `dusting layout`: what a render of a shot holds in memory: its trees, its scene, and where each number of a film stands. */
import prettyBytes from 'pretty-bytes';
import { treeStats } from '../core/geometry/tree-stats.ts';
import { filmBytes } from '../core/render/film/film.ts';
import { layoutRows } from '../core/render/film/told-layout.ts';
import { sceneBytes } from '../core/render/scene/scene-bytes.ts';
import { compiledWithKernel } from '../host/kernel.ts';
import { BadUse } from './bad-use.ts';
import { openShot } from './open-shot.ts';
import { parseOptions } from './options.ts';
import { sheetOption } from './sheet-option.ts';

export const LAYOUT_USAGE = 'dusting layout <shot folder | scene> [--sheet preview|final] [--json]';

const OPTIONS = { sheet: { type: 'string', default: 'preview' }, json: { type: 'boolean', default: false } } as const;

export async function layoutCommand(args: string[]): Promise<void> {
  const { values, positionals } = parseOptions(args, OPTIONS, LAYOUT_USAGE);
  if (positionals.length !== 1) throw new BadUse(`Name one shot folder.\n${LAYOUT_USAGE}`);
  const shot = await openShot(positionals[0], {});
  const { document } = shot;
  const sheet = document.sheets[sheetOption(values.sheet)];
  const scene = compiledWithKernel(document, await shot.load(document), sheet);
  const { geometry, layout } = scene;
  const trees = [
    { name: 'instances', ...treeStats(geometry.topBounds, geometry.topLinks) },
    ...geometry.meshes.map(({ bounds, links }, k) => ({ name: `mesh ${k}`, ...treeStats(bounds, links) })),
  ];
  const film = {
    bytesPerPixel: filmBytes(layout),
    bytes: filmBytes(layout) * sheet.width * sheet.height,
    rows: layoutRows(layout),
  };
  const told = { scene: { bytes: sceneBytes(scene), instances: geometry.instanceMesh.length }, trees, film };
  console.log(values.json ? JSON.stringify(told) : tell(told));
}

interface Told {
  scene: { bytes: number; instances: number };
  trees: ({ name: string } & ReturnType<typeof treeStats>)[];
  film: { bytesPerPixel: number; bytes: number; rows: ReturnType<typeof layoutRows> };
}

function tell({ scene, trees, film }: Told): string {
  const row = (cells: (string | number)[]) => cells.map((cell, k) => (k === 0 ? String(cell).padEnd(12) : String(cell).padStart(10))).join(''); // prettier-ignore
  return [
    `scene ${prettyBytes(scene.bytes)}, ${scene.instances} instances`,
    '',
    row(['tree', 'nodes', 'leaves', 'items', 'depth', 'mean', 'in a leaf', 'cost']),
    ...trees.map((t) => row([t.name, t.nodes, t.leaves, t.items, t.depth, t.meanDepth.toFixed(1), t.meanItems.toFixed(1), t.cost.toFixed(1)])), // prettier-ignore
    '',
    `film ${prettyBytes(film.bytes)}, ${film.bytesPerPixel} bytes per pixel; its means:`,
    ...film.rows.map(
      ({ at, floats, name }) => `${String(at).padStart(5)} ${floats === 1 ? '  ' : `×${floats}`.padEnd(2)} ${name}`,
    ),
  ].join('\n');
}
