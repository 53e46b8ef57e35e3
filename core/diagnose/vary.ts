/** The scene of a document with some of its controls set otherwise. */
import { withValues, type ControlValues } from '../document/set-values.ts';
import type { Sheet, SheetName, ShotDocument } from '../document/schema.ts';
import type { ChangeSide } from '../predict/small-render.ts';
import type { CompiledScene } from '../render/scene/scene.ts';

/**
 * @param sheet as the render was made with it, samples and all
 * @param compile with rays of the host's, if it has faster ones
 * @example
 * const vary = varying(document, 'preview', sheet, (changed, its) => compileScene(changed, assets, its));
 * const { scene } = vary({ '/objects/chimney/seeThroughShadows': true });
 */
export function varying(
  document: ShotDocument,
  name: SheetName,
  sheet: Sheet,
  compile: (document: ShotDocument, sheet: Sheet) => CompiledScene,
): (values: ControlValues) => ChangeSide {
  const rendered = { ...document, sheets: { ...document.sheets, [name]: sheet } };
  return (values) => {
    const changed = withValues(rendered, [name], values);
    return { scene: compile(changed, changed.sheets[name]), sheet: changed.sheets[name] };
  };
}
