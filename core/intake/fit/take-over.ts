/**
 * The take-over list of a scene that was made for another renderer: each aspect carried, filled from a named default,
 * or lost. What is not in the scene at all is a default, never silence.
 */
import type { TakenOver } from '../../contracts/intake.ts';
import type { SourceScene } from '../../formats/source-scene.ts';
import { defaultSheet } from '../../document/defaults.ts';
import { plural } from '../preflight/tell.ts';
import type { MadeShot } from '../to-shot.ts';

/** @example takeOver(scene, made); // [{ aspect: 'materials', fate: 'carried', detail: '12 of 12' }, …] */
export function takeOver(scene: SourceScene, { document, notUnderstood }: MadeShot): TakenOver[] {
  const { settings } = scene;
  const sheet = defaultSheet();
  const told = (word: RegExp) => notUnderstood.filter(({ what }) => word.test(what));
  const missing = scene.materials.filter((material) => material.missing).length;
  const moving = scene.nodes.filter(({ moves, visibilityChanges }) => moves || visibilityChanges);
  const shading = told(/shad|node|material|texture|extension/i);
  return [
    {
      aspect: 'materials',
      fate: scene.materials.length === 0 ? 'default' : missing === scene.materials.length ? 'lost' : 'carried',
      detail: scene.materials.length
        ? `${scene.materials.length - missing} of ${scene.materials.length}${shading.length ? `; ${plural(shading.length, 'remark')} on parts that were not understood` : ''}`
        : 'the scene has none: matt grey, base colour 0.8',
    },
    {
      aspect: 'lights',
      fate: scene.lights.length ? 'carried' : 'default',
      detail: scene.lights.length
        ? `${Object.keys(document.lights).length} of ${scene.lights.length}`
        : 'the scene has none',
    },
    {
      aspect: 'environment',
      fate: scene.environment ? 'carried' : 'default',
      detail: scene.environment
        ? `${scene.environment.image === null ? 'one colour' : 'an image'}, rotated by ${document.environment.rotation}°`
        : `the scene has none: intensity ${document.environment.intensity}`,
    },
    {
      aspect: 'cameras',
      fate: scene.cameras.length ? 'carried' : 'default',
      detail: scene.cameras.length
        ? `${Object.keys(document.cameras).length} of ${scene.cameras.length}`
        : 'the scene has none: one that sees everything',
    },
    {
      aspect: 'view transform',
      fate: settings.viewTransform === null ? 'default' : 'lost',
      detail:
        settings.viewTransform === null
          ? 'the scene states none: sRGB'
          : `"${settings.viewTransform}" is shown as sRGB`,
    },
    {
      aspect: 'picture',
      fate: settings.width === null ? 'default' : 'carried',
      detail: `${document.sheets.final.width} × ${document.sheets.final.height} pixels${settings.width === null ? ', as the camera sees' : ''}`,
    },
    {
      aspect: 'sampling',
      fate: 'default',
      detail: `${sheet.samples} samples per pixel, as a new shot has; formats say nothing that holds for another renderer`,
    },
    {
      aspect: 'integrator',
      fate: 'default',
      detail: `all bounces within the limits (diffuse ${sheet.limits.diffuse}, transmission ${sheet.limits.transmission}, overall ${sheet.limits.overall})${settings.renderer ? `; ${settings.renderer} may have had direct light only` : ''}`,
    },
    {
      aspect: 'motion',
      fate: moving.length ? 'lost' : 'default',
      detail: moving.length
        ? `${moving.length} objects are animated; the first moment of it is read: ${moving.slice(0, 3).map(({ name }) => name).join(', ')}` // prettier-ignore
        : 'nothing moves',
    },
  ];
}
