/** HA-070, the dawn set: every fault planted in it is told exactly once, with its offender; its logs break off. */
import { expect } from 'chai';
import { encode } from 'fast-png';
import { canonicalText } from '../../core/document/canonical.ts';
import { applyPatch, invertPatch, replaceValues } from '../../core/document/patch.ts';
import { writeGlb } from '../../core/formats/gltf.ts';
import { writePng } from '../../core/formats/png.ts';
import { filesInMemory } from '../../core/formats/scene-files.ts';
import { listFiles, stateOfFiles } from '../../core/intake/files/list.ts';
import { fromShot } from '../../core/intake/from-shot.ts';
import { formatOf } from '../../core/intake/log/formats.ts';
import { LogReading } from '../../core/intake/log/read.ts';
import { triage } from '../../core/intake/log/triage.ts';
import type { CheckResult } from '../../core/intake/preflight/check.ts';
import { defaultProfile, type Profile } from '../../core/intake/preflight/profile.ts';
import { runPreflight } from '../../core/intake/preflight/run.ts';
import { carryOut } from '../../core/intake/repairs/carry-out.ts';
import { repairAll } from '../../core/intake/repair-all.ts';
import { compileScene } from '../../core/render/compile/compile.ts';
import { loadAssets } from '../../core/render/compile/load-assets.ts';
import type { ShotDocument } from '../../core/document/schema.ts';
import { buildDawnSet, PLANTED } from '../../demo/ha-070/build.ts';
import { box } from '../../demo/shapes.ts';
import type { DemoShot } from '../../demo/shot.ts';

describe('HA-070', () => {
  let shot: DemoShot;
  const read = async (path: string) => shot.files.get(path) ?? null;
  const look = async (document: ShotDocument, more = new Map<string, Uint8Array>(), profile = defaultProfile()) =>
    runPreflight(await fromShot(document, 1, filesInMemory(new Map([...shot.files, ...more]))), profile, document);
  const told = (results: CheckResult[]) => results.filter(({ state }) => state === 'stop' || state === 'caution');
  before(async () => (shot = await buildDawnSet()));

  it('tells every fault planted in it once, with its offender, and nothing else', async () => {
    const found = Object.fromEntries(
      told(await look(shot.document)).map(({ id, offenders }) => [id, offenders.map(({ object }) => object).sort()]),
    );
    expect(found).to.deep.equal(Object.fromEntries(Object.entries(PLANTED).map(([id, who]) => [id, [...who].sort()])));
  });

  it('is repaired by every repair it is offered: what it was for is clear afterwards', async () => {
    const offered = told(await look(shot.document)).filter(({ repair }) => repair);
    expect(offered.map(({ id }) => id)).to.deep.equal([
      'motion-static', 'transform-negative', 'transform-sheared', 'ngon', 'open-edge', 'degenerate-face', 'duplicate-face',
      'coincident-instances', 'reversed-normals', 'mixed-winding', 'texture-colour-space', 'uv-set-without-data',
      'uv-out-of-tile', 'name-duplicate', 'object-hidden', 'sheet-drift', 'limit-overridden',
    ]); // prettier-ignore
    for (const { id, repair } of offered) {
      const { patch, files } = await carryOut(shot.document, repair!, read);
      const mended = applyPatch(shot.document, patch);
      const after = await look(mended, files);
      expect(after.find((check) => check.id === id)!.state, id).to.equal('clear');
      // Nothing else is broken by it.
      expect(Object.keys(PLANTED), id).to.include.members(told(after).map((check) => check.id));
      // Undone like any other change.
      expect(canonicalText(applyPatch(mended, invertPatch(shot.document, patch)))).to.equal(canonicalText(shot.document)); // prettier-ignore
    }
  });

  it('is clear when it is cured: its repairs, the files that got lost, and what a person has to decide', async () => {
    const show: Profile = {
      ...defaultProfile(),
      name: 'Halfmoon',
      settings: { '/samples': 256 },
      // The hills stand where hills stand.
      off: ['far-from-origin'],
    };
    const { document, files, done } = await repairAll(shot.document, read, show);
    // Bringing the final sheet into step mends its limits too.
    expect(done.map(({ id }) => id))
      .to.include('samples-out-of-range')
      .and.to.not.include('limit-overridden');
    expect(done.length).to.equal(17);
    for (const [path, bytes] of Object.entries(await delivered())) files.set(path, bytes);
    const byHand = replaceValues(document, {
      '/materials/unnamed/name': 'zinc',
      '/objects/box-12/name': 'tool crate',
      '/materials/flame/emissionStrength': 900,
      '/objects/gate/mesh': 'smoker',
      '/objects/stool/mesh': 'crate',
      '/objects/cushion/mesh': 'leg',
    });
    const cured = applyPatch(document, byHand);
    const unused = await repairAll(cured, async (path) => files.get(path) ?? read(path), show);
    const after = await look(unused.document, files, show);
    expect(told(after).map(({ id, offenders }) => [id, offenders])).to.deep.equal([]);
    const assets = await loadAssets(unused.document, async (path) => files.get(path) ?? read(path), 'HA-070');
    expect(compileScene(unused.document, assets, unused.document.sheets.preview).warnings).to.deep.equal([]);
  });

  /** What whoever sent the shot has to send again. */
  async function delivered(): Promise<Record<string, Uint8Array>> {
    const grey = writePng(2, 2, new Uint8Array(12).fill(180));
    const bucket = box([-0.1, 0, -0.1], [0.1, 0.2, 0.1], 2);
    const deep = encode({ width: 2, height: 2, data: new Uint16Array(4).fill(30000), channels: 1, depth: 16 });
    return {
      'textures/sign.png': grey,
      'geometry/smoker.glb': await writeGlb(Array.from({ length: 30 }, () => ({ name: 'smoker', mesh: bucket }))),
      'textures/comb.png': deep,
    };
  }

  it('names the files that are not there, who needs them, and renders without them under their names', async () => {
    const source = await fromShot(shot.document, 1, filesInMemory(shot.files));
    const list = listFiles(source, shot.document);
    expect(stateOfFiles(list)).to.equal('stop');
    const missing = list.files.filter(({ state }) => state === 'missing');
    expect(missing.map(({ path, neededBy }) => [path, neededBy])).to.deep.equal([
      ['textures/sign.png', ['/materials/sign/baseColourMap']],
      ['geometry/smoker.glb', ['/meshes/smoker']],
    ]);
    const assets = await loadAssets(shot.document, read, 'HA-070', 'stand in');
    const { warnings, objectIds, instanceObject } = compileScene(shot.document, assets, shot.document.sheets.preview);
    expect(warnings.filter((text) => text.startsWith('File')).length).to.equal(2);
    expect([...instanceObject]).to.not.include(objectIds.indexOf('smoker'));
    const refused = await loadAssets(shot.document, read, 'HA-070').then(() => '', (error: Error) => error.message); // prettier-ignore
    expect(refused).to.match(/\/meshes\/smoker.*\/textures\/sign/);
  });

  const LOGS: [string, string, RegExp][] = [
    ['dusting', 'Dusting', /killed, or crashed without a message; memory was not the reason/],
    ['heron', 'Heron', /lack of memory: it was still rising/],
    ['millrace', 'Millrace', /the disk was full/],
  ];
  for (const [name, format, cause] of LOGS)
    it(`has a log of ${format} that breaks off, and says why`, () => {
      const text = new TextDecoder().decode(shot.files.get(`logs/${name}.log`));
      const known = formatOf(text.split('\n'));
      expect(known.name).to.equal(format);
      const reading = new LogReading(known);
      reading.push(text);
      const { brokeOff, state, kinds } = triage(reading.end());
      // Every complaint in them means something that is written down.
      expect(kinds.filter(({ id }) => id === null)).to.deep.equal([]);
      expect(state).to.equal('stop');
      expect(brokeOff!.cause).to.match(cause);
    });
});
