/** The jar shelf is what its description says. */
import { expect } from 'chai';
import type { Mesh } from '../../core/data/mesh.ts';
import { canonicalText } from '../../core/document/canonical.ts';
import type { ShotDocument } from '../../core/document/schema.ts';
import { countBodies, tellBodies } from '../../core/diagnose/limits/faces.ts';
import type { Assets } from '../../core/render/compile/assets.ts';
import { compileScene } from '../../core/render/compile/compile.ts';
import { loadAssets } from '../../core/render/compile/load-assets.ts';
import { buildJarShelf } from '../../demo/ha-010/build.ts';
import { demoShots } from '../../demo/shots.ts';

describe('demo shot HA-010', () => {
  let document: ShotDocument;
  let assets: Assets;
  before(async () => {
    const shot = await buildJarShelf();
    document = shot.document;
    assets = await loadAssets(document, async (path) => shot.files.get(path) ?? null, 'HA-010');
  });

  /** Greatest radius about +Y of the corners at a height. */
  const radiusAt = ({ positions: p }: Mesh, y: number) => {
    let radius = 0;
    for (let i = 0; i < p.length; i += 3)
      if (Math.abs(p[i + 1] - y) < 1e-6) radius = Math.max(radius, Math.hypot(p[i], p[i + 2]));
    return radius;
  };

  it('is built the same every time', async () => {
    const [a, b] = [await buildJarShelf(), await buildJarShelf()];
    expect(canonicalText(a.document)).to.equal(canonicalText(b.document));
    for (const [path, bytes] of a.files)
      expect(Buffer.from(bytes).equals(Buffer.from(b.files.get(path)!)), path).to.equal(true);
  });

  it('is among the demo shots under its code', () => {
    expect(Object.keys(demoShots)).to.include(document.code);
  });

  it('has four columns of jars five rows deep, the outer two filled with honey', () => {
    const count = (part: string) => Object.keys(document.objects).filter((id) => id.startsWith(`${part}-`)).length;
    expect([count('jar'), count('lid'), count('honey'), count('label')]).to.deep.equal([20, 20, 10, 4]);
    const depths = new Set(
      Object.entries(document.objects)
        .filter(([id]) => id.startsWith('jar-1-'))
        .map(([, o]) => o.transform[14].toFixed(4)),
    );
    expect(depths.size).to.equal(5);
  });

  it('lets honey reach 0.1 mm into its glass, which has the higher priority', () => {
    const [jar, honey] = [assets.meshes.get('jar')!, assets.meshes.get('honey')!];
    const innerWall = 0.04 - 0.003;
    expect(radiusAt(honey, 0.098)).to.be.closeTo(innerWall + 0.0001, 1e-6);
    expect(radiusAt(jar, 0.14)).to.be.below(0.04);
    expect(document.objects['jar-1-1'].priority).to.be.above(document.objects['honey-1-1'].priority);
  });

  it('is hollow glass: a straight path through an empty jar passes two walls of two faces', () => {
    const scene = compileScene(document, assets, document.sheets.preview);
    // Through the third column, which holds no honey.
    const counts = countBodies(document, scene, document.sheets.preview, 284, 120);
    expect(counts.map((c) => c.material)).to.deep.equal(['tinted glass']);
    expect(counts[0].faces).to.equal(counts[0].bodies * 4);
    expect(counts[0].bodies).to.be.within(3, 5);
  });

  it('is wrong as described: limits below the crossings, reflections of two events', () => {
    const { preview, final } = document.sheets;
    expect(preview.limits.transmission).to.be.below(20);
    expect(preview.limits.overall).to.be.below(21);
    expect(preview.limits.specular).to.equal(2);
    expect(final.limits.overall, 'the sheets are out of step').to.not.equal(preview.limits.overall);
    expect([preview.width, preview.height, preview.samples]).to.deep.equal([480, 270, 32]);
    expect([final.width, final.height]).to.deep.equal([1920, 1080]);
  });

  it('tells bodies as one counts by hand', () => {
    const glass = { material: 'tinted glass', bodies: 5, faces: 20 };
    expect(tellBodies([glass])).to.equal('5 bodies of tinted glass × 2 walls × 2 faces = 20');
    expect(tellBodies([{ material: 'clear glass', bodies: 1, faces: 2 }])).to.equal(
      '1 body of clear glass × 2 faces = 2',
    );
    expect(tellBodies([glass, { material: 'honey', bodies: 2, faces: 3 }])).to.equal(
      '5 bodies of tinted glass × 2 walls × 2 faces + 2 bodies of honey with 3 faces = 23',
    );
  });
});
