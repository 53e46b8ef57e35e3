/** The scene of a document with some of its controls set otherwise. */
import type { HeldOut } from '../contracts/finding.ts';
import { holdOutPair } from '../document/hold-out.ts';
import { withValues, type ControlValues } from '../document/set-values.ts';
import type { Sheet, SheetName, ShotDocument } from '../document/schema.ts';
import type { Variation } from '../predict/small-render.ts';
import type { Assets } from '../render/compile/assets.ts';
import { sceneKey } from '../render/scene/scene-key.ts';
import type { CompiledScene } from '../render/scene/scene.ts';
import type { RenderInput } from './family.ts';

export interface Rendered {
  document: ShotDocument;
  sheetName: SheetName;
  /** As the render was made with it, samples and all. */
  sheet: Sheet;
  scene: CompiledScene;
  assets: Assets;
  /** With rays of the host's, if it has faster ones. @param like a scene that may share its geometry */
  compile(document: ShotDocument, sheet: Sheet, like: CompiledScene, assets: Assets): CompiledScene;
}

/**
 * Settings that are no part of a scene share the one there is; of others, what rays are traced through is shared as long as
 * they meet it in the same places.
 *
 * @example
 * const vary = varying({ document, sheetName: 'preview', sheet, scene, assets, compile });
 * const scene = vary({ '/objects/chimney/seeThroughShadows': true }).compile();
 */
export function varying({
  document,
  sheetName,
  sheet,
  scene,
  assets,
  compile,
}: Rendered): (values: ControlValues, files?: Assets) => Variation {
  const rendered = { ...document, sheets: { ...document.sheets, [sheetName]: sheet } };
  const key = sceneKey(document, sheet);
  const vary = (values: ControlValues, files = assets): Variation => {
    const changed = withValues(rendered, [sheetName], values);
    const its = changed.sheets[sheetName];
    const isSame = files === assets && sceneKey(changed, its) === key;
    return { sheet: its, compile: () => (isSame ? scene : compile(changed, its, scene, files)) };
  };
  return vary;
}

/** Values for chosen objects alone, rendered by themselves beside the rest. @throws RangeError as `holdOutPair` does */
export function varyAlone({ document, vary }: Pick<RenderInput, 'document' | 'vary'>, of: HeldOut): Variation {
  const { rest, alone } = holdOutPair(document, of.objects);
  return { ...vary(rest), alone: vary({ ...alone, ...of.values }) };
}
