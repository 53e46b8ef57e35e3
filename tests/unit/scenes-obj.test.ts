/** OBJ and MTL: what the formats' texts say is what comes in, and three.js's own loader agrees. */
import { expect } from 'chai';
import { OBJLoader } from 'three/addons/loaders/OBJLoader.js';
import type { Mesh as ThreeMesh } from 'three';
import { trianglesOf } from '../../core/data/poly-mesh.ts';
import { readScene } from '../../core/formats/scene-readers.ts';
import { filesInMemory } from '../../core/formats/scene-files.ts';
import type { SourceScene } from '../../core/formats/source-scene.ts';

const bytes = (text: string) => new TextEncoder().encode(text);
const read = (text: string | Uint8Array, more: Record<string, string | Uint8Array> = {}): Promise<SourceScene> => {
  const files = Object.entries({ 'set/hive.obj': text, ...more }).map(
    ([path, content]) => [path, typeof content === 'string' ? bytes(content) : content] as const,
  );
  return readScene('set/hive.obj', filesInMemory(new Map(files)));
};
const refusal = (text: string | Uint8Array, more = {}): Promise<string> =>
  read(text, more).then(
    () => 'it was read',
    (error: Error) => `${error.name}: ${error.message}`,
  );

const CUBE = `v 0 0 0
v 1 0 0
v 1 1 0
v 0 1 0
v 0 0 1
v 1 0 1
v 1 1 1
v 0 1 1
`;
const SIDES = 'f 4 3 2 1\nf 5 6 7 8\nf 1 2 6 5\nf 2 3 7 6\nf 3 4 8 7\nf 4 1 5 8\n';

describe('OBJ scenes', () => {
  it('keep polygons, groups and the indices of every corner', async () => {
    const { nodes, meshes } = await read(
      `${CUBE}vt 0 0\nvt 1 0\nvt 1 1\nvt 0 1\no box\ng lid\nf 8/1 5/2 6/3 7/4\ng walls\nf 1/1 2/2 6/3 5/4\nf 2/1 3/2 7/3\n`,
    );
    expect(nodes.map(({ name }) => name)).to.deep.equal(['lid', 'walls']);
    const [lid, walls] = meshes.map(({ poly }) => poly);
    expect([...lid.faceSizes]).to.deep.equal([4]);
    expect([...walls.faceSizes]).to.deep.equal([4, 3]);
    expect(walls.points.length / 3, 'points that the group uses').to.equal(6);
    expect([...walls.uvs[0].indices]).to.deep.equal([0, 1, 2, 3, 0, 1, 2]);
  });

  it('are the triangles that three.js makes of them: corners that count back, faces of many corners', async () => {
    const text = `${CUBE}${SIDES.replace('f 5 6 7 8', 'f -4 -3 -2 -1')}v 3 0 0\nv 4 0 0\nv 4.5 1 0\nv 3.5 2 0\nv 2.5 1 0\nf -5 -4 -3 -2 -1\n`;
    const scene = await read(text);
    const mine = scene.meshes.flatMap(({ poly }) => corners(trianglesOf(poly)));
    const theirs: string[] = [];
    new OBJLoader().parse(text).traverse((child) => {
      const { geometry } = child as ThreeMesh;
      if (geometry) theirs.push(...cornersOf(geometry.attributes.position.array as Float32Array));
    });
    expect(mine.length).to.equal(15 * 3);
    expect(area(mine)).to.be.closeTo(area(theirs), 1e-6);
    expect([...new Set(mine)].sort()).to.deep.equal([...new Set(theirs)].sort());
  });

  it('cut a hollow face along its ears: an L of area 3 stays 3 (shoelace formula)', async () => {
    const { meshes } = await read('v 0 0 0\nv 2 0 0\nv 2 1 0\nv 1 1 0\nv 1 2 0\nv 0 2 0\nf 1 2 3 4 5 6\n');
    const triangles = corners(trianglesOf(meshes[0].poly));
    expect(area(triangles)).to.be.closeTo(3, 1e-6);
  });

  it('keep creases as OpenSubdiv’s shapes write them', async () => {
    const { meshes } = await read(`${CUBE}${SIDES}t crease 2/1/0 1 5 2.5\n`);
    const { creases, subdivision, points } = meshes[0].poly;
    expect(subdivision).to.equal('catmull-clark');
    expect([...creases.sharpness]).to.deep.equal([2.5]);
    const ends = [...creases.edges].map((p) => [...points.slice(p * 3, p * 3 + 3)]);
    expect(ends).to.deep.equal([[1, 0, 0], [1, 0, 1]]); // prettier-ignore
  });

  it('smooth by group: two faces of one group share a normal, those of none are flat', async () => {
    const roof = 'v 0 0 0\nv 0 0 1\nv 1 1 0\nv 1 1 1\nv 2 0 0\nv 2 0 1\n';
    const smooth = await read(`${roof}s 1\nf 1 2 4 3\nf 3 4 6 5\n`);
    const ridge = trianglesOf(smooth.meshes[0].poly);
    const up = [...ridge.positions.keys()]
      .filter((i) => i % 3 === 1 && ridge.positions[i] === 1)
      .map((i) => ridge.normals![i]);
    expect(up.every((y) => Math.abs(y - 1) < 1e-6)).to.equal(true);
    expect((await read(`${roof}s off\nf 1 2 4 3\nf 3 4 6 5\n`)).meshes[0].poly.normals).to.equal(null);
  });

  it('take materials from their library: paths with backslashes, CRLF, glass, exponents', async () => {
    const scene = await read(`mtllib mat\\glass.mtl\n${CUBE}usemtl pane\nf 1 2 3\nusemtl wax\nf 2 3 4\n`, {
      'set/mat/glass.mtl':
        'newmtl pane\r\nillum 7\r\nNi 1.45\r\nTf 0.9 1 0.9\r\nnewmtl wax\r\nKd .8 .6 .2\r\nNs 30\r\nmap_Kd -s 2 3 1 -o 0.5 0 tex/comb.png\r\n',
      'set/mat/tex/comb.png': bytes('png'),
    });
    const [pane, wax] = scene.materials;
    expect([pane.spec.transmission, pane.spec.ior, pane.thin]).to.deep.equal([1, 1.45, false]);
    expect(pane.spec.baseColour).to.deep.equal([0.9, 1, 0.9]);
    // Walter et al. 2007: alpha² = 2/(Ns + 2) = 1/16, so alpha is a quarter and perceptual roughness a half.
    expect(wax.spec.roughness).to.be.closeTo(0.5, 1e-12);
    expect(wax.textures[0]).to.include({ slot: 'baseColour', colourSpace: 'srgb' });
    expect([wax.textures[0].scale, wax.textures[0].offset]).to.deep.equal([[2, 3], [0.5, 0]]); // prettier-ignore
    expect(scene.images[0].resolved).to.equal('set/mat/tex/comb.png');
    expect(scene.repaired.map(({ what }) => what).join()).to.match(/backslashes/);
    expect(scene.nodes[0].parts.map(({ material }) => scene.materials[material].name)).to.deep.equal(['pane', 'wax']);
  });

  it('tell what is not there, and what differs in case alone', async () => {
    const scene = await read('mtllib Hive.MTL\nmtllib gone.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nusemtl nobody\nf 1 2 3\n', {
      'set/hive.mtl': 'newmtl wood\nKd 1 1 1\nmap_Kd C:\\show\\wood.png\n',
    });
    expect(scene.references.map(({ path, state }) => [path, state])).to.deep.equal([
      ['Hive.MTL', 'case'],
      ['C:\\show\\wood.png', 'absolute'],
      ['gone.mtl', 'missing'],
    ]);
    expect(scene.materials[0]).to.include({ name: 'nobody', missing: true });
  });

  it('read UTF-16, lone carriage returns and lines that go on, each with a note', async () => {
    const text = 'v 0 0 0\rv 1 0 0\rv 0 1 \\\r0\rf 1 2 3\r';
    const wide = new Uint8Array(2 + text.length * 2);
    wide.set([0xff, 0xfe]);
    [...text].forEach((c, i) => (wide[2 + i * 2] = c.charCodeAt(0)));
    const scene = await read(wide);
    expect(scene.meshes[0].poly.faceSizes.length).to.equal(1);
    expect(scene.repaired.map(({ what }) => what)).to.deep.equal([
      'text in UTF-16LE',
      'line ends of a carriage return alone',
    ]);
  });

  it('fold what they do not understand by its kind, with the first place', async () => {
    const { notUnderstood } = await read(`${CUBE}${SIDES}l 1 2\nl 2 3\nl 3 4\ncurv 0 1 1 2\n`);
    expect(notUnderstood).to.deep.equal([
      { where: 'set/hive.obj:15', what: '"l": lines are not rendered (3 times; here first)' },
      { where: 'set/hive.obj:18', what: 'statement "curv"' },
    ]);
  });

  const bad: [string, string | Uint8Array, RegExp][] = [
    ['a NaN', 'v 0 0 0\nv nan 0 0\nv 0 1 0\nf 1 2 3\n', /set\/hive\.obj:2: "nan" is not finite/],
    [
      'a corner beyond the points',
      'v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 9\n',
      /hive\.obj:4: there is no point 9; there are 3/,
    ],
    ['a corner counted back too far', 'v 0 0 0\nf -1 -2 -3\n', /hive\.obj:2: there is no point -2/],
    ['points alone', 'v 0 0 0\n', /has no faces, only points/],
    ['no text at all', new Uint8Array([0, 0, 0, 0, 1, 2]), /is not text/],
    ['nothing', '', /is empty/],
  ];
  for (const [what, text, message] of bad)
    it(`with ${what} are refused by file and line`, async () => {
      expect(await refusal(text))
        .to.match(/^RangeError/)
        .and.match(message);
    });
});

function cornersOf(
  positions: Float32Array,
  indices: ArrayLike<number> = [...Array(positions.length / 3).keys()],
): string[] {
  return Array.from(indices, (i) => [...positions.slice(i * 3, i * 3 + 3)].join(' '));
}
const corners = ({ positions, indices }: ReturnType<typeof trianglesOf>) => cornersOf(positions, indices);

function area(triangles: string[]): number {
  let sum = 0;
  for (let i = 0; i < triangles.length; i += 3) {
    const [a, b, c] = triangles.slice(i, i + 3).map((text) => text.split(' ').map(Number));
    const u = b.map((v, k) => v - a[k]);
    const w = c.map((v, k) => v - a[k]);
    sum += Math.hypot(u[1] * w[2] - u[2] * w[1], u[2] * w[0] - u[0] * w[2], u[0] * w[1] - u[1] * w[0]) / 2;
  }
  return sum;
}
