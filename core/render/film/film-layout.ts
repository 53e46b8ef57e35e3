/** What a film of a document keeps beyond what all keep: light groups, shadow passes, occlusion, lines. */
import type { Sheet, ShotDocument } from '../../document/schema.ts';
import type { FilmLayout } from './passes.ts';

/** More light groups than this are not kept apart: a pixel would grow without bound. */
const MOST_GROUPS = 16;

/** Names of light groups in use, sorted; the rest of a long list counts as none. */
export function lightGroups(document: Pick<ShotDocument, 'lights' | 'environment' | 'materials'>): string[] {
  const names = [
    ...Object.values(document.lights).map((light) => light.group),
    document.environment.group,
    ...Object.values(document.materials).map((material) => material.lightGroup),
  ];
  return [...new Set(names)]
    .filter((name) => name !== '')
    .sort()
    .slice(0, MOST_GROUPS);
}

/** Lights that are on, in the order of the scene's table; the environment comes after them. */
export function lightsOn(document: Pick<ShotDocument, 'lights'>): string[] {
  return Object.keys(document.lights)
    .filter((id) => !document.lights[id].hidden)
    .sort();
}

export function filmLayout(document: ShotDocument, sheet: Pick<Sheet, 'passes' | 'lines'>): FilmLayout {
  return {
    groups: lightGroups(document),
    groupPasses: sheet.passes.groups,
    shadows: sheet.passes.shadows ? lightsOn(document) : [],
    occlusion: sheet.passes.occlusion,
    lines:
      sheet.passes.lines || sheet.lines.over
        ? { ink: sheet.lines.over ? ([...sheet.lines.colour] as [number, number, number]) : null }
        : null,
    channelErrors: false,
  };
}
