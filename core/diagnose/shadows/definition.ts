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
  healthy: 'Every shadow that the lights would throw is there and can be seen.',
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
    headline: pair ? `${capital(listed(pair))}: raising either alone brings nothing back` : `${capital(labelOf(first.id))}: ${percent(first.share)} of what it lights`,
    why: `Depth maps of ${spec.resolution}² with ${spec.filter.replace('-', ' ')} comparison, traced beside the shadows that are there: ${percent(missing)} is lit that lies in shadow, ${percent(dark)} is in shadow that is lit. ${Number.isFinite(texels.most) ? `Texels are ${texels.median.toFixed(1)} pixels wide at the middle place, and up to ${texels.most.toFixed(1)}. ` : ''}The render itself is not touched by this.`,
  }; // prettier-ignore
}

function tellWide({ name, angle, edge }: WideCase): Words {
  return {
    sentence: `${capital(name)} is ${+angle.toPrecision(3)}° wide: its shadows dissolve.`,
    headline: `The edges of its shadows are ${metres(+edge.metres.toPrecision(2))} wide here, ${edge.pixels.toFixed(0)} pixels`,
    why: 'The sun is 0.53° wide, five degrees are softened. So wide a light lights like a sky: things throw no shadow that could be told, though each of them holds light back.',
  };
}

function tellJagged({ objects, document, light, degrees }: JaggedCase): Words {
  const name = document.lights[light].name || light;
  return {
    sentence: `Where ${listed(objects!)} ${objects!.length === 1 ? 'turns' : 'turn'} away from ${name}, light ends in steps.`,
    headline: `Faces are ${degrees.toFixed(0)}° off the smooth normals that they are shaded with`,
    why: 'Shading goes on where a face has turned away already: light ends along its edges. It is the mesh that is too coarse; samples do not change that.',
  };
}

function tellOutline({ objects, document, light, degrees, edge, off }: OutlineCase): Words {
  const names = listed(objects!);
  return {
    sentence: `The shadow of ${names} by ${document.lights[light].name || light} has corners, though ${objects!.length === 1 ? 'it is' : 'they are'} shaded smooth.`,
    headline: `Edges of its outline are ${edge.toFixed(0)} pixels long there and turn by ${degrees.toFixed(0)}°: ${off.toFixed(1)} pixels off the curve`,
    why: 'A hard light draws the mesh as it is; smooth normals curve its shading alone. It is not too few samples, which give noise, nor a shadow map, which gives steps of texels.',
  };
}

function tellMissing({ kept, switches, stops: median, most, share, ofLight }: MissingCase): Words {
  const reasons = switches.map((id) => settingOf(id).tell(kept));
  const casters = namesOf(kept.document, kept.casters);
  return {
    sentence: `The shadow of ${listed(casters)} by ${kept.light} is missing: ${reasons.join(', and ')}.`,
    headline: capital(reasons.join(', and ')),
    why: `Traced towards ${kept.light}, ${listed(casters)} ${casters.length === 1 ? 'stands' : 'stand'} in its way on ${percent(share)} of what is seen, and ${reasons.length === 1 ? 'this setting alone lets' : 'these settings together let'} the light pass. With the shadow these places are ${stops(median)} darker, up to ${stops(most)}: ${percent(ofLight)} of their light is that of ${kept.light}.`,
  };
}

function tellDrowned({ light, contrast, fill, angle }: DrownedCase): Words {
  return {
    sentence: `Shadows of ${light} are drowned: they are ${stops(contrast)} darker than its light.`,
    headline: `${capital(fill.name)} brings ${fill.times.toFixed(1)} times the light of ${light} into its shadows`,
    why: `${capital(light)} is ${angle.toFixed(1)}° wide, so that its shadows have edges; ${percent(fill.share)} of what lights them comes from ${fill.name}. A shadow is plain at a stop and a half. More samples do not change that.`,
  };
}
