/** A light's shadows by the depth maps of a preview, block by block of the frame, and the settings that would fit. */
import type { ToldMaps } from '../contracts/preview-shadows.ts';
import { defaultPreviewShadows } from '../document/defaults.ts';
import type { PreviewShadowsSpec } from '../document/schema.ts';
import { cellsOf, placesOver } from '../place/grid.ts';
import { lightName } from '../place/light-name.ts';
import type { LightWalk } from '../place/light-walk.ts';
import { fitShadows } from './fit.ts';
import { lightsWithMaps } from './key-light.ts';
import { simulate } from './simulate.ts';
import { traceShadows, type TracedShadows } from './trace.ts';

/** Blocks over the frame, about. */
const BLOCKS = 32_000;

interface Laid {
  walk: LightWalk;
  step: number;
  rows: number[];
  traced: TracedShadows;
}

/** What stays while settings of the maps are turned: the truth, of one light. */
export class MapTeller {
  private readonly laid: Laid | null;

  /** @param light id; null, or none that has maps: that which brings most */
  constructor(walk: LightWalk, light: string | null) {
    const { scene, settings } = walk;
    const { step, places } = placesOver(walk, settings, BLOCKS);
    const rows = lightsWithMaps(scene, places);
    const row = rows.find((one) => scene.lightIds[one] === light) ?? rows[0];
    this.laid = row === undefined ? null : { walk, step, rows, traced: traceShadows(walk, row, places) };
  }

  /**
   * @param own the shot's; null: those that would fit
   * @returns null where no light has maps: an environment and lights of meshes have none
   */
  tell(own: PreviewShadowsSpec | null): ToldMaps | null {
    if (!this.laid) return null;
    const { walk, step, rows, traced } = this.laid;
    const fitted = fitShadows(walk, traced, own ?? defaultPreviewShadows());
    const spec = own ?? fitted?.spec ?? defaultPreviewShadows();
    const { width, height, cells } = cellsOf(walk.settings, step, traced.places);
    const told = simulate(walk, traced, spec);
    const out = {
      facing: new Float32Array(width * height),
      shown: new Float32Array(width * height),
      lit: new Float32Array(width * height),
      why: new Uint16Array(width * height),
    };
    for (const [k, at] of cells.entries()) {
      if (!traced.isFaced[k]) continue;
      out.facing[at] = traced.cosine[k];
      out.shown[at] = told.light[k];
      out.lit[at] = traced.caster[k] === Infinity ? 1 : 0;
      out.why[at] = told.why[k];
    }
    const named = (row: number) => ({ id: walk.scene.lightIds[row], name: lightName(walk, row) });
    return { light: named(traced.light), lights: rows.map(named), spec, width, height, ...out, told, fitted }; // prettier-ignore
  }
}
