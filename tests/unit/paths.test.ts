/** Where paths lead, by the rules of POSIX (IEEE 1003.1, 4.13) and of Windows (drives, shares, backslashes). */
import { expect } from 'chai';
import { extensionOf, fileName, leadPath, normalise } from '../../core/formats/paths.ts';
import { filesInMemory } from '../../core/formats/scene-files.ts';
import { SceneReading } from '../../core/formats/scene-reading.ts';

const bytes = new Uint8Array([1, 2, 3]);

describe('Paths in scenes', () => {
  const led: [string, string, string, 'inside' | 'outside' | 'absolute'][] = [
    ['beside the file', 'tex/a.png', 'sets/tex/a.png', 'inside'],
    ['from here', './a.png', 'sets/a.png', 'inside'],
    ['one up', '../tex/a.png', 'tex/a.png', 'inside'],
    ['up and down again', 'x/../y/./a.png', 'sets/y/a.png', 'inside'],
    ['with doubled slashes', 'tex//a.png', 'sets/tex/a.png', 'inside'],
    ['out of the root', '../../tex/a.png', '../tex/a.png', 'outside'],
    ['out and out', '../../../a.png', '../../a.png', 'outside'],
    ['POSIX absolute', '/show/tex/a.png', '/show/tex/a.png', 'absolute'],
    ['POSIX absolute with dots', '/show/./x/../a.png', '/show/a.png', 'absolute'],
    ['above the POSIX root', '/../../a.png', '/a.png', 'absolute'],
    ['a drive', 'C:\\show\\a.png', 'C:/show/a.png', 'absolute'],
    ['a drive with slashes', 'd:/show/a.png', 'd:/show/a.png', 'absolute'],
    ['a share', '\\\\farm\\show\\a.png', '//farm/show/a.png', 'absolute'],
    ['Windows, relative', '..\\tex\\a.png', 'tex/a.png', 'inside'],
    ['a file address', 'file:///show/a.png', '/show/a.png', 'absolute'],
    ['a file address with a drive', 'file:///C:/show/a.png', 'C:/show/a.png', 'absolute'],
    ['blanks around it', '  tex/a b.png ', 'sets/tex/a b.png', 'inside'],
  ];
  for (const [what, written, path, kind] of led)
    it(`lead right: ${what}`, () => {
      expect(leadPath('sets/yard.usda', written)).to.deep.include({ path, kind });
    });

  it('take variables of shells and of Windows, and name those that nobody set', () => {
    const variables = { SHOW: '/show', WAX: 'wax' };
    expect(leadPath('a.usda', '$SHOW/x.png', variables)).to.deep.include({ path: '/show/x.png', kind: 'absolute', variables: [] }); // prettier-ignore
    expect(leadPath('a.usda', '${WAX}/x.png', variables).path).to.equal('wax/x.png');
    expect(leadPath('a.usda', '%WAX%\\x.png', variables).path).to.equal('wax/x.png');
    expect(leadPath('a.usda', '$GONE/x.png', variables)).to.deep.include({ path: '$GONE/x.png', variables: ['$GONE'] });
  });

  it('have names and endings', () => {
    expect(fileName('a/b/c.tar.GZ')).to.equal('c.tar.GZ');
    expect(extensionOf('a/b/c.tar.GZ')).to.equal('gz');
    expect(extensionOf('a.b/c')).to.equal('');
    expect(normalise('')).to.equal('');
    expect(normalise('a/..')).to.equal('');
  });
});

describe('Files that a scene names', () => {
  const reading = (files: Record<string, Uint8Array>) =>
    new SceneReading(filesInMemory(new Map(Object.entries(files))), 'USD', 'sets/a.usda', 0);

  it('are each one reference a place, with its state: there, in another case, missing, absolute, outside', async () => {
    const r = reading({ 'sets/tex/a.png': bytes, '../b.png': bytes });
    for (const [path, state] of [['tex/a.png', 'ok'], ['tex/A.PNG', 'case'], ['tex/c.png', 'missing'], ['/d.png', 'absolute'], ['../../b.png', 'outside']])
      expect((await r.refer('image', 'sets/a.usda', path, 'here')).reference.state, path).to.equal(state);
    await r.refer('image', 'sets/a.usda', 'tex/a.png', 'here');
    expect(r.scene.references.length, 'the same place is not counted twice').to.equal(5);
    expect(r.scene.repaired[0].what).to.equal('"tex/A.PNG" is written in another case than the file "sets/tex/a.png"');
  }); // prettier-ignore

  it('are one image however they are written, and all tiles of a tiled one count', async () => {
    const r = reading({ 'sets/a.png': bytes, 'sets/t.1001.png': bytes, 'sets/t.1012.png': bytes });
    const [first, second] = [await r.image('sets/a.usda', 'a.png', 'x'), await r.image('sets/a.usda', './x/../a.png', 'y')]; // prettier-ignore
    expect(first).to.equal(second);
    const tiled = await r.image('sets/a.usda', 't.<UDIM>.png', 'z');
    expect(r.scene.images[tiled].path).to.equal('t.<UDIM>.png');
    expect(r.scene.images[tiled].tiles.map(({ number, path }) => [number, path])).to.deep.equal([[1001, 'sets/t.1001.png'], [1012, 'sets/t.1012.png']]); // prettier-ignore
    expect(r.scene.notUnderstood, 'tiles are all read').to.deep.equal([]);
    const lost = await r.image('sets/a.usda', 'none.<UDIM>.png', 'w');
    expect(r.scene.images[lost]).to.deep.include({ bytes: null, tiles: [] });
  });
});
