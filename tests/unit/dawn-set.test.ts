/** HA-070, the dawn set: every fault planted in it is told exactly once, with its offender; its logs break off. */
import { expect } from 'chai';
import { applyPatch } from '../../core/document/patch.ts';
import { filesInMemory } from '../../core/formats/scene-files.ts';
import { listFiles, stateOfFiles } from '../../core/intake/files/list.ts';
import { fromShot } from '../../core/intake/from-shot.ts';
import { formatOf } from '../../core/intake/log/formats.ts';
import { LogReading } from '../../core/intake/log/read.ts';
import { triage } from '../../core/intake/log/triage.ts';
import type { CheckResult } from '../../core/intake/preflight/check.ts';
import { defaultProfile } from '../../core/intake/preflight/profile.ts';
import { runPreflight } from '../../core/intake/preflight/run.ts';
import { compileScene } from '../../core/render/compile.ts';
import { loadAssets } from '../../core/render/load-assets.ts';
import type { ShotDocument } from '../../core/document/schema.ts';
import { buildDawnSet, PLANTED } from '../../demo/ha-070/build.ts';
import type { DemoShot } from '../../demo/shot.ts';

describe('HA-070', () => {
  let shot: DemoShot;
  const look = async (document: ShotDocument): Promise<CheckResult[]> =>
    runPreflight(await fromShot(document, 1, filesInMemory(shot.files)), defaultProfile(), document);
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
    expect(offered.map(({ id }) => id)).to.deep.equal(['motion-static', 'texture-colour-space', 'sheet-drift', 'limit-overridden']); // prettier-ignore
    for (const { id, repair } of offered) {
      const after = await look(applyPatch(shot.document, repair!.patch));
      expect(after.find((check) => check.id === id)!.state, id).to.equal('clear');
    }
  });

  it('names the files that are not there, who needs them, and renders without them under their names', async () => {
    const source = await fromShot(shot.document, 1, filesInMemory(shot.files));
    const list = listFiles(source);
    expect(stateOfFiles(list)).to.equal('stop');
    const missing = list.files.filter(({ state }) => state === 'missing');
    expect(missing.map(({ path, neededBy }) => [path, neededBy])).to.deep.equal([
      ['textures/sign.png', ['/materials/sign/baseColourMap']],
      ['geometry/smoker.glb', ['/meshes/smoker']],
    ]);
    const read = async (path: string) => shot.files.get(path) ?? null;
    const assets = await loadAssets(shot.document, read, 'HA-070', 'stand in');
    const { warnings, objectIds, instanceObject } = compileScene(shot.document, assets, shot.document.sheets.preview);
    expect(warnings.filter((text) => text.startsWith('File')).length).to.equal(2);
    expect([...instanceObject]).to.not.include(objectIds.indexOf('smoker'));
    const refused = await loadAssets(shot.document, read, 'HA-070').then(() => '', (error: Error) => error.message); // prettier-ignore
    expect(refused).to.match(/\/meshes\/smoker.*\/textures\/sign/);
  });

  const LOGS: [string, string, RegExp][] = [
    ['dusting', 'Dusting', /ended from outside, or crashed without a word; memory was not the reason/],
    ['heron', 'Heron', /want of memory: it was still rising/],
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
