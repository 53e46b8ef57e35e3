/** Shadows: those that a setting keeps away, and those that other light drowns. */
import { metres } from '../../intake/preflight/tell.ts';
import { changeOf } from '../../figures/effect.ts';
import { ofRenders, type Family, type Words } from '../family.ts';
import type { Evidence } from '../../contracts/finding.ts';
import type { ReasonId } from '../../shadow-map/reasons.ts';
import { capital, listed, percent } from '../words.ts';
import { shadowCases, type DrownedCase, type MissingCase, type ShadowCase } from './case.ts';
import { byMap } from './causes/by-map.ts';
import { bySetting } from './causes/by-setting.ts';
import { drownedByFill } from './causes/drowned-by-fill.ts';
import { jagged } from './causes/jagged.ts';
import { lightTooWide } from './causes/light-too-wide.ts';
import type { JaggedCase } from './jagged.ts';
import type { OutlineCase } from './outline.ts';
import type { PreviewCase } from './preview.ts';
import { REASONS } from '../../shadow-map/reasons.ts';
import { finerMesh } from './remedies/finer-mesh.ts';
import { fitMaps } from './remedies/fit-maps.ts';
import { narrow } from './remedies/narrow.ts';
import type { WideCase } from './wide.ts';
import { lessFill } from './remedies/less-fill.ts';
import { moreKey } from './remedies/more-key.ts';
import { reBalance } from './remedies/re-balance.ts';
import { putRight } from './remedies/put-right.ts';
import { namesOf } from './settings/names.ts';
import { settingOf } from './settings/registry.ts';

export const shadows: Family = {
  id: 'shadows',
  title: 'Shadows',
  healthy: 'Every shadow the lights should cast is there and visible.',
  isEarly: true,
  render: ofRenders<ShadowCase>({
    needs: () => ['beauty', 'error.beauty', 'coverage', 'object', 'diffuse.direct', 'diffuse.indirect'],
    cases: shadowCases,
    causes: [...bySetting, drownedByFill, lightTooWide, jagged, ...byMap],
    remedies: [putRight, reBalance, lessFill, moreKey, narrow, finerMesh, fitMaps],
    figure: 'brightness',
    goesWith: (effect) => Math.min(1, Math.abs(changeOf(effect, 'brightness') ?? 0)),
    tell,
    dials: (of) => (of.kind === 'missing' && of.switches.includes('ray-distance') ? [{ pointer: '/rayDistance', needs: null, note: null }] : []), // prettier-ignore
    evidence,
  }),
};

const stops = (value: number): string => `${value.toFixed(value < 1 ? 2 : 1)} stops`;

function tell(of: ShadowCase): Words {
  switch (of.kind) {
    case 'missing':
      return tellMissing(of);
    case 'drowned':
      return tellDrowned(of);
    case 'wide':
      return tellWide(of);
    case 'jagged':
      return tellJagged(of);
    case 'outline':
      return tellOutline(of);
    case 'preview':
      return tellPreview(of);
  }
}

function evidence(of: ShadowCase): Evidence[] {
  if (of.kind === 'drowned')
    return [{ kind: 'shares', title: `Light in the shadows of ${of.light}`, bars: [{ label: 'comes from', parts: [{ label: of.fill.name, share: of.fill.share }, { label: 'everything else', share: 1 - of.fill.share }] }] }]; // prettier-ignore
  if (of.kind === 'preview')
    return [{ kind: 'shares', title: `Of what ${of.light} lights`, bars: of.simulated.reasons.map(({ id, share }) => ({ label: labelOf(id), parts: [{ label: 'wrong in the preview', share }] })) }]; // prettier-ignore
  return [];
}

const labelOf = (id: ReasonId): string => REASONS.find((one) => one.id === id)!.label;

function tellPreview({ light, simulated, spec }: PreviewCase): Words {
  const { missing, false: dark, wrong, reasons, together, texels } = simulated;
  const [first] = reasons;
  const pair = together[0] && together[0].share > first.share / 2 ? together[0].ids.map(labelOf) : null;
  return {
    sentence: `The preview’s shadows of ${light} are wrong on ${percent(wrong)} of what it lights: ${pair ? listed(pair) : labelOf(first.id)}.`,
    headline: pair ? `${capital(listed(pair))}: raising either one alone brings nothing back` : `${capital(labelOf(first.id))}: ${percent(first.share)} of what it lights`,
    why: `Depth maps of ${spec.resolution}² with ${spec.filter.replace('-', ' ')} comparison, compared with traced shadows: ${percent(missing)} is lit but should be in shadow, ${percent(dark)} is in shadow but should be lit. ${Number.isFinite(texels.most) ? `Texels are ${texels.median.toFixed(1)} pixels wide in the median, and up to ${texels.most.toFixed(1)}. ` : ''}The render itself is not affected.`,
  }; // prettier-ignore
}

function tellWide({ name, angle, edge }: WideCase): Words {
  return {
    sentence: `${capital(name)} is ${+angle.toPrecision(3)}° wide: its shadows dissolve.`,
    headline: `The edges of its shadows are ${metres(+edge.metres.toPrecision(2))} wide here, ${edge.pixels.toFixed(0)} pixels`,
    why: 'The sun is 0.53° wide; five degrees is soft. A light this wide acts like a sky: nothing casts a readable shadow, although everything blocks light.',
  };
}

function tellJagged({ objects, document, light, degrees }: JaggedCase): Words {
  const name = document.lights[light].name || light;
  return {
    sentence: `Where ${listed(objects!)} ${objects!.length === 1 ? 'turns' : 'turn'} away from ${name}, light ends in steps.`,
    headline: `Faces are ${degrees.toFixed(0)}° off their smooth shading normals`,
    why: 'Shading continues where the face has already turned away, so light ends along its edges. The mesh is too coarse; samples don’t change that.',
  };
}

function tellOutline({ objects, document, light, degrees, edge, off }: OutlineCase): Words {
  const names = listed(objects!);
  return {
    sentence: `The shadow of ${names} by ${document.lights[light].name || light} has corners, though ${objects!.length === 1 ? 'it is' : 'they are'} shaded smooth.`,
    headline: `Edges of its outline are ${edge.toFixed(0)} pixels long there and turn by ${degrees.toFixed(0)}°: ${off.toFixed(1)} pixels off the curve`,
    why: 'A hard light shows the silhouette of the mesh as it is; smooth normals only curve its shading. Too few samples would give noise, and a shadow map would give texel steps.',
  };
}

function tellMissing({ kept, switches, stops: median, most, share, ofLight }: MissingCase): Words {
  const reasons = switches.map((id) => settingOf(id).tell(kept));
  const casters = namesOf(kept.document, kept.casters);
  return {
    sentence: `The shadow of ${listed(casters)} by ${kept.light} is missing: ${reasons.join(', and ')}.`,
    headline: capital(reasons.join(', and ')),
    why: `Traced towards ${kept.light}, ${listed(casters)} ${casters.length === 1 ? 'stands' : 'stand'} in its way on ${percent(share)} of the view, and ${reasons.length === 1 ? 'this setting alone lets' : 'these settings together let'} the light pass. With the shadow they are ${stops(median)} darker, up to ${stops(most)}: ${percent(ofLight)} of their light comes from ${kept.light}.`,
  };
}

function tellDrowned({ light, contrast, fill, angle }: DrownedCase): Words {
  return {
    sentence: `Shadows of ${light} are drowned: they are ${stops(contrast)} darker than its light.`,
    headline: `${capital(fill.name)} brings ${fill.times.toFixed(1)} times the light of ${light} into its shadows`,
    why: `${capital(light)} is ${angle.toFixed(1)}° wide, so its shadows have edges; ${percent(fill.share)} of the light in them comes from ${fill.name}. A shadow reads clearly from a stop and a half. More samples don’t change that.`,
  };
}
