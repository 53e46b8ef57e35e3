import { MOST_PIXELS } from '../data/limits.ts';
import { showValue, type Problem } from './problem.ts';
import type { ShotDocument, StopsSpec } from './schema.ts';

/** Samples of one picture past which no machine of the trade would finish it. */
const MOST_SAMPLES = 4e11;

/** Adds a problem for figures that are each in range and do not go together. */
export function checkFigures(document: ShotDocument, problems: Problem[]): void {
  const tell = (path: string, value: unknown, expected: string) =>
    problems.push({ path, value: showValue(value), expected });
  const rising = (path: string, stops: StopsSpec) =>
    stops.forEach((stop, i) => {
      if (i > 0 && stop.at < stops[i - 1].at)
        tell(`${path}/${i}/at`, stop.at, `at least ${stops[i - 1].at}, the stop before it`);
    });

  for (const [name, sheet] of Object.entries(document.sheets)) {
    const pixels = sheet.width * sheet.height;
    if (pixels > MOST_PIXELS)
      tell(
        `/sheets/${name}/width`,
        sheet.width,
        `less: ${sheet.width} × ${sheet.height} are ${pixels} pixels, more than the ${MOST_PIXELS} that are rendered`,
      );
    const all = pixels * sheet.samples;
    if (all > MOST_SAMPLES)
      tell(
        `/sheets/${name}/samples`,
        sheet.samples,
        `fewer: ${sheet.width} × ${sheet.height} pixels with so many are ${all.toExponential(1)} samples, more than ${MOST_SAMPLES.toExponential(0)}`,
      );
    if (sheet.adaptive.on && sheet.adaptive.least > sheet.samples)
      tell(
        `/sheets/${name}/adaptive/least`,
        sheet.adaptive.least,
        `at most the ${sheet.samples} samples that are the most`,
      );
  }
  for (const [id, map] of Object.entries(document.maps)) if ('stops' in map) rising(`/maps/${id}/stops`, map.stops);
  for (const [id, { near, far }] of Object.entries(document.cameras))
    if (far !== null && near >= far) tell(`/cameras/${id}/near`, near, `less than ${far}, its far plane`);
  rising('/environment/stops', document.environment.stops);
  for (const [id, { file, tiles = [] }] of Object.entries(document.textures))
    if (file.includes('<UDIM>') !== tiles.length > 0)
      tell(`/textures/${id}/tiles`, tiles, tiles.length ? 'no tiles, or <UDIM> in the name of the file' : 'at least one tile, for <UDIM> stands in the name of the file'); // prettier-ignore
  if (document.environment.kind === 'image' && document.environment.texture === null)
    tell('/environment/texture', null, 'the id of a texture, for the environment is an image');
  if (document.background?.kind === 'image' && document.background.texture === null)
    tell('/background/texture', null, 'the id of a texture, for the background is an image');
  if (document.background) rising('/background/stops', document.background.stops);
  for (const [id, object] of Object.entries(document.objects)) {
    if (object.shape === 'mesh' && object.mesh === null) tell(`/objects/${id}/mesh`, null, 'the id of a mesh');
    object.keys.forEach((key, i) => {
      if (i > 0 && key.frame <= object.keys[i - 1].frame)
        tell(`/objects/${id}/keys/${i}/frame`, key.frame, `more than ${object.keys[i - 1].frame}, the key before it`);
    });
  }
  const box = document.fog?.box;
  if (box)
    for (let a = 0; a < 3; a++)
      if (!(box.min[a] < box.max[a]))
        tell(`/fog/box/min/${a}`, box.min[a], `less than ${box.max[a]}, the box’s other side`);
}
