/**
 * Causes of noise that more samples only hide, each built into a small scene by itself, and its remedy held against a trial
 * by other random numbers. For the lobes: noise of signed weights (Mitchell & Netravali 1988); for mips: Williams 1983.
 */
import { expect } from 'chai';
import { defaultMap } from '../../core/document/defaults.ts';
import type { FindingWithMask } from '../../core/contracts/finding.ts';
import type { Sheet, ShotDocument } from '../../core/document/schema.ts';
import { writePng } from '../../core/formats/png.ts';
import { noise } from '../../core/diagnose/noise/definition.ts';
import { loadAssets } from '../../core/render/compile/load-assets.ts';
import { smallShot } from '../api/small-shot.ts';
import { examine, tryRemedy, type BenchShot } from './bench-shot.ts';
import { read, type Read } from './effects.ts';
import { randomNumbers } from './size.ts';

/** A wall in even light and nothing before it: next to no noise of its own. */
async function wall(
  change: (document: ShotDocument, files: Map<string, Uint8Array>) => void,
  sheet: Partial<Sheet> = {},
): Promise<BenchShot> {
  const { document, files } = await smallShot('SUSPECT', { samples: 32, grainTarget: 0.1, ...sheet });
  for (const id of ['pane0', 'pane1', 'pane2']) delete document.objects[id];
  document.lights = {};
  change(document, files);
  return { document, assets: await loadAssets(document, async (path) => files.get(path) ?? null, 'x') };
}
const found = (shot: BenchShot): FindingWithMask => examine(shot, [noise])[0];

function weave(document: ShotDocument, files: Map<string, Uint8Array>, filter: 'nearest' | 'mip'): void {
  const random = randomNumbers(3);
  files.set(
    'textures/weave.png',
    writePng(
      64,
      64,
      Uint8Array.from({ length: 64 * 64 * 3 }, () => 255 * random()),
    ),
  );
  document.textures.weave = { file: 'textures/weave.png', colourSpace: 'linear' };
  document.maps.weave = { ...defaultMap('image'), name: 'weave', texture: 'weave', filter, scale: [40, 40] };
  document.materials.wall.baseColourMap = 'weave';
}

describe('causes of noise that samples only hide', function () {
  this.timeout(120_000);

  it('finds texture finer than pixels, whose mips take it away as forecast', async () => {
    const shot = await wall((document, files) => weave(document, files, 'nearest'));
    const of = found(shot);
    const { finding } = of;
    expect(finding.cause).to.equal('noise.fine-texture');
    expect(finding.headline).to.match(/texture finer than pixels/);
    const remedy = finding.remedies.find(({ id }) => id === 'mip-textures')!;
    expect(remedy.title).to.equal('Filter textures with mips in weave');
    const measured = read(tryRemedy(shot, of, remedy));
    expect(measured.noiseAfter).to.be.below(measured.noiseBefore / 2);
    expect(read(remedy.predicted).noiseAfter / measured.noiseAfter).to.be.within(0.85, 1.15);
  });

  it('lets texels that are wider than pixels be seen, as in pixel art: no mips are offered', async () => {
    const shot = await wall((document, files) => {
      weave(document, files, 'nearest');
      Object.assign(document.maps.weave, { scale: [0.25, 0.25] });
    });
    const all = examine(shot, [noise]);
    expect(all, 'its edges are noisy still').not.to.deep.equal([]);
    for (const { finding } of all) {
      expect(finding.causes.map(({ id }) => id)).not.to.include('noise.fine-texture');
      expect(finding.remedies.map(({ id }) => id)).not.to.include('mip-textures');
    }
  });

  it('does not suspect textures that are mixed already', async () => {
    const { finding } = found(await wall((document, files) => weave(document, files, 'mip')));
    expect(finding.remedies.map(({ id }) => id)).not.to.include('mip-textures');
    expect(finding.headline).not.to.match(/texture/);
  });

  it('finds the share of a sharp filter, and what a soft one leaves', async () => {
    const sharp = { filter: { kind: 'lanczos' as const, width: 4 } };
    const shot = await wall(() => {}, sharp);
    const of = found(shot);
    const { finding } = of;
    expect(finding.why).to.match(/\d+ % goes with a sharp pixel filter \(lanczos\)/);
    const remedy = finding.remedies.find(({ id }) => id === 'soft-filter')!;
    const measured = read(tryRemedy(shot, of, remedy));
    expect(measured.noiseAfter).to.be.below(measured.noiseBefore * 0.9);
    expect(read(remedy.predicted).noiseAfter / measured.noiseAfter).to.be.within(0.85, 1.15);
  });

  it('finds depth of field, which has no remedy but samples, and suspects none of a pinhole', async () => {
    const stripes = (fStop: number | null) => (document: ShotDocument) => {
      document.materials.dark = { ...document.materials.wall, baseColour: [0.02, 0.02, 0.02] };
      const place = (x: number) => [0.12, 0, 0, 0, 0, 3, 0, 0, 0, 0, 1, 0, x, 0, 0, 1];
      for (let k = 0; k < 9; k++)
        document.objects[`bar${k}`] = { ...document.objects.wall, name: 'bar', mesh: 'pane', material: 'dark', transform: place((k - 4) / 5) }; // prettier-ignore
      Object.assign(document.cameras[document.camera], { fStop, sensorHeight: 400, focusDistance: 1.2 });
    };
    const { finding } = found(await wall(stripes(1)));
    expect(finding.cause).to.equal('noise.depth-of-field');
    expect(finding.headline).to.match(/depth of field/);
    expect(finding.remedies.map(({ id }) => id)).to.include('target');
    const sharp = examine(await wall(stripes(null)), [noise]);
    for (const { finding: one } of sharp) expect(one.causes.map(({ id }) => id)).not.to.include('noise.depth-of-field');
  });

  it('finds motion blur, which has no remedy but samples', async () => {
    const at = (x: number) => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, x, 0, 0, 1];
    const fan = (document: ShotDocument) => {
      document.materials.bright = { ...document.materials.wall, baseColour: [0.05, 0.05, 0.05] };
      const keys = [{ frame: 1, transform: at(-1), mesh: null }, { frame: 2, transform: at(1), mesh: null }]; // prettier-ignore
      document.objects.fan = { ...document.objects.wall, name: 'fan', mesh: 'pane', material: 'bright', motion: 'transform', keys }; // prettier-ignore
    };
    const { finding } = found(await wall(fan, { motion: { samples: 2, shutter: 1 } }));
    expect(finding.cause).to.equal('noise.motion-blur');
    expect(finding.headline).to.match(/motion blur/);
    expect(finding.remedies.map(({ id }) => id)).not.to.include('motion-blur');
    expect(finding.remedies.map(({ id }) => id)).to.include('target');
  });

  it('finds occlusion rays that are too few, under the neutral material', async () => {
    const shot = await wall(
      (document) => {
        // A lid near the wall: half of what each place sees is occluded.
        document.objects.lid = { ...document.objects.wall, name: 'lid', mesh: 'pane', transform: [3, 0, 0, 0, 0, 3, 0, 0, 0, 0, 1, 0, 0, 0, -0.5, 1], visibility: { ...document.objects.wall.visibility, camera: false } }; // prettier-ignore
      },
      { neutral: 'neutral-occlusion' },
    );
    const of = found(shot);
    const { finding } = of;
    const remedy = finding.remedies.find(({ id }) => id === 'occlusion-samples')!;
    expect(remedy.title).to.equal('4 occlusion samples');
    const measured = read(tryRemedy(shot, of, remedy));
    // Of a frame this small the region was chosen for what chance brought there: what remains of it is compared.
    const left = ({ noiseBefore, noiseAfter }: Read) => noiseAfter / noiseBefore;
    expect(left(read(remedy.predicted)) / left(measured)).to.be.within(0.85, 1.15);
    expect(left(measured)).to.be.below(0.75);
  });
});
