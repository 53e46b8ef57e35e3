/** glTF in all its shapes, and what polygons of ours look like to Khronos' validator. */
import { Document, WebIO } from '@gltf-transform/core';
import {
  ALL_EXTENSIONS,
  EXTMeshoptCompression,
  KHRDracoMeshCompression,
  KHRLightsPunctual,
} from '@gltf-transform/extensions';
import { expect } from 'chai';
import draco from 'draco3dgltf';
import { validateBytes } from 'gltf-validator';
import { MeshoptEncoder } from 'meshoptimizer/encoder';
import { decoders } from '../../host/decoders.ts';
import { trianglesOf, type PolyMesh } from '../../core/data/poly-mesh.ts';
import { readGlb, writeGlb } from '../../core/formats/gltf.ts';
import { meshPolygons } from '../../core/data/mesh-polygons.ts';
import { runsOf } from '../../core/formats/gltf/polygons.ts';
import { readScene } from '../../core/formats/scene-readers.ts';
import { filesInMemory } from '../../core/formats/scene-files.ts';
import type { SourceScene } from '../../core/formats/source-scene.ts';

type Json = Record<string, unknown>;

const encoder = new TextEncoder();
const read = (json: Json | Uint8Array, more: Record<string, Uint8Array> = {}): Promise<SourceScene> => {
  const bytes = json instanceof Uint8Array ? json : encoder.encode(JSON.stringify(json));
  const name = json instanceof Uint8Array ? 'set.glb' : 'set.gltf';
  return readScene(name, filesInMemory(new Map(Object.entries({ [name]: bytes, ...more }))));
};
const refusal = (json: Json, more = {}): Promise<string> =>
  read(json, more).then(
    () => 'it was read',
    (error: Error) => `${error.name}: ${error.message}`,
  );

/** A strip of two squares, one triangle a row, in a buffer of its own. */
const corners = Float32Array.from([0, 0, 0, 1, 0, 0, 0, 1, 0, 1, 1, 0, 0, 2, 0, 1, 2, 0]);
const buffer = new Uint8Array(corners.buffer);
const plain = (changes: Json = {}): Json => ({
  asset: { version: '2.0' },
  scene: 0,
  scenes: [{ nodes: [0] }],
  nodes: [{ mesh: 0, name: 'ribbon' }],
  meshes: [{ primitives: [{ attributes: { POSITION: 0 }, mode: 5 }] }],
  accessors: [{ bufferView: 0, componentType: 5126, count: 6, type: 'VEC3', min: [0, 0, 0], max: [1, 2, 0] }],
  bufferViews: [{ buffer: 0, byteLength: 72 }],
  buffers: [{ uri: 'ribbon.bin', byteLength: 72 }],
  ...changes,
});
const withBuffer = { 'ribbon.bin': buffer };

describe('glTF scenes', () => {
  it('unpack meshes that Draco and meshoptimizer packed, as large as the plain one', async () => {
    const grid = 12;
    const positions = new Float32Array(grid * grid * 3).map((_, i) => [(Math.floor(i / 3) % grid) / 4, Math.floor(i / 3 / grid) / 4, Math.sin(Math.floor(i / 3))][i % 3]); // prettier-ignore
    const indices = Uint16Array.from({ length: (grid - 1) ** 2 * 6 }, (_, i) => {
      const [cell, corner] = [Math.floor(i / 6), i % 6];
      const at = Math.floor(cell / (grid - 1)) * grid + (cell % (grid - 1));
      return at + [0, 1, grid, 1, grid + 1, grid][corner];
    });
    const document = new Document();
    const own = document.createBuffer();
    const primitive = document
      .createPrimitive()
      .setAttribute('POSITION', document.createAccessor().setType('VEC3').setArray(positions).setBuffer(own))
      .setIndices(document.createAccessor().setType('SCALAR').setArray(indices).setBuffer(own));
    document.createScene().addChild(document.createNode('hill').setMesh(document.createMesh().addPrimitive(primitive)));
    await MeshoptEncoder.ready;
    const io = new WebIO().registerExtensions(ALL_EXTENSIONS).registerDependencies({
      'draco3d.encoder': await draco.createEncoderModule(),
      'meshopt.encoder': MeshoptEncoder,
    });
    for (const pack of [
      () => document.createExtension(KHRDracoMeshCompression),
      () => document.createExtension(EXTMeshoptCompression),
    ]) {
      const packed = pack().setRequired(true);
      const bytes = await io.writeBinary(document);
      packed.dispose();
      const scene = await readScene('set.glb', filesInMemory(new Map([['set.glb', bytes]])), decoders);
      const { points, faceSizes } = scene.meshes[0].poly;
      expect(faceSizes.length, packed.extensionName).to.equal(2 * (grid - 1) ** 2);
      const height = (list: ArrayLike<number>) => Math.max(...Array.from(list).filter((_, i) => i % 3 === 1));
      expect(height(points)).to.be.closeTo(height(positions), 0.01);
      expect(scene.notUnderstood).to.deep.equal([]);
    }
  });

  it('take a node with several parents as instances, and say so', async () => {
    const shared = { nodes: [{ children: [2, 3], translation: [5, 0, 0] }, { children: [3] }, {}, { name: 'jar', mesh: 0, children: [4] }, { name: 'lid' }], scenes: [{ nodes: [0, 1] }] }; // prettier-ignore
    const { nodes, repaired } = await read(plain(shared), withBuffer);
    expect(repaired.map(({ what }) => what)).to.include('node "jar" has several parents: taken as instances');
    const jars = nodes.filter(({ mesh }) => mesh >= 0);
    expect(jars.map(({ world }) => world[12])).to.deep.equal([5, 0]);
    expect(nodes.filter(({ name }) => name === 'lid')).to.have.length(2);
  });

  it('show unlit materials as their colours are', async () => {
    const unlit = {
      pbrMetallicRoughness: { baseColorFactor: [0.2, 0.4, 0.6, 1] },
      extensions: { KHR_materials_unlit: {} },
    };
    const { materials, notUnderstood } = await read(plain({ materials: [unlit], extensionsUsed: ['KHR_materials_unlit'], meshes: [{ primitives: [{ attributes: { POSITION: 0 }, mode: 5, material: 0 }] }] }), withBuffer); // prettier-ignore
    expect(materials[0].spec).to.deep.include({ emission: [0.2, 0.4, 0.6], baseColour: [0, 0, 0], specular: 0 });
    expect(notUnderstood).to.deep.equal([]);
  });

  it('take strips and fans apart, all triangles facing as the first', async () => {
    const strip = await read(plain(), withBuffer);
    const { positions: p, indices } = trianglesOf(strip.meshes[0].poly);
    const areas = Array.from({ length: indices.length / 3 }, (_, t) => {
      const [a, b, c] = [...indices.slice(t * 3, t * 3 + 3)].map((v) => [p[v * 3], p[v * 3 + 1]]);
      return ((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])) / 2;
    });
    expect(areas).to.deep.equal([0.5, 0.5, 0.5, 0.5]);
    expect(strip.repaired[0].what).to.equal('triangle strips taken apart into triangles');
    const fan = await read(plain({ meshes: [{ primitives: [{ attributes: { POSITION: 0 }, mode: 6 }] }] }), withBuffer);
    expect(fan.meshes[0].poly.faceSizes.length).to.equal(4);
  });

  it('share points between parts, whose materials stay apart, and keep every UV set', async () => {
    const document = new Document();
    const own = document.createBuffer();
    const accessor = (type: 'VEC2' | 'VEC3' | 'SCALAR', values: Float32Array | Uint16Array) =>
      document.createAccessor().setType(type).setArray(values as Float32Array<ArrayBuffer>).setBuffer(own); // prettier-ignore
    const mesh = document.createMesh('two');
    for (const [name, x] of [['left', 0], ['right', 1]] as const) {
      const part = document
        .createPrimitive()
        .setAttribute('POSITION', accessor('VEC3', Float32Array.from([x, 0, 0, x + 1, 0, 0, x + 1, 1, 0, x, 1, 0])))
        .setIndices(accessor('SCALAR', Uint16Array.from([0, 1, 2, 0, 2, 3])))
        .setMaterial(document.createMaterial(name));
      for (const set of [0, 1, 2])
        part.setAttribute(`TEXCOORD_${set}`, accessor('VEC2', Float32Array.from([0, 0, 1, 0, 1, 1, 0, 1])));
      mesh.addPrimitive(part);
    } // prettier-ignore
    const lights = document.createExtension(KHRLightsPunctual);
    const lamp = lights.createLight('lamp').setType('spot').setIntensity(5).setOuterConeAngle(0.5);
    document.createScene().addChild(document.createNode('two').setMesh(mesh)).addChild(document.createNode('lamp').setExtension('KHR_lights_punctual', lamp)); // prettier-ignore
    const scene = await read(await new WebIO().registerExtensions(ALL_EXTENSIONS).writeBinary(document));
    const { poly } = scene.meshes[0];
    expect(poly.points.length / 3, 'corners that meet are one point').to.equal(6);
    expect(poly.uvs.length).to.equal(3);
    expect([...poly.uvs[0].values.slice(0, 4)], 'V from the bottom').to.deep.equal([0, 1, 1, 1]);
    expect(scene.nodes[0].parts.map(({ material, faces }) => [material, ...faces!])).to.deep.equal([[0, 0, 1], [1, 2, 3]]); // prettier-ignore
    expect(scene.lights[0].spec).to.include({ kind: 'spot', intensity: 5 });
  });

  it('read sparse accessors', async () => {
    const bytes = new Uint8Array(96);
    bytes.set(buffer);
    new Uint16Array(bytes.buffer, 72, 1)[0] = 5;
    new Float32Array(bytes.buffer, 84, 3).set([7, 8, 9]);
    const json = plain({
      bufferViews: [{ buffer: 0, byteLength: 72 }, { buffer: 0, byteOffset: 72, byteLength: 2 }, { buffer: 0, byteOffset: 84, byteLength: 12 }],
      buffers: [{ uri: 'ribbon.bin', byteLength: 96 }],
    }); // prettier-ignore
    (json.accessors as Json[])[0].sparse = { count: 1, indices: { bufferView: 1, componentType: 5123 }, values: { bufferView: 2 } }; // prettier-ignore
    const { meshes } = await read(json, { 'ribbon.bin': bytes });
    expect([...meshes[0].poly.points].slice(-3)).to.deep.equal([7, 8, 9]);
  });

  it('mark what moves, bends or comes and goes, and what hides', async () => {
    const scene = await read(
      plain({
        extensionsUsed: ['KHR_node_visibility', 'VENDOR_sparkle'],
        nodes: [{ mesh: 0, name: 'fan', children: [1] }, { name: 'blade', mesh: 0, skin: 0, extensions: { KHR_node_visibility: { visible: false } } }],
        skins: [{ joints: [1] }],
        animations: [{ samplers: [], channels: [{ sampler: 0, target: { node: 0, path: 'rotation' } }] }],
      }),
      withBuffer,
    ); // prettier-ignore
    const [fan, blade] = scene.nodes;
    expect([fan.moves, blade.moves, fan.visible, blade.visible]).to.deep.equal([true, true, true, false]);
    expect(blade.live).to.deep.equal(['skin']);
    expect(blade.path).to.equal('/fan/blade');
    expect(scene.notUnderstood.map(({ what }) => what).join()).to.match(/VENDOR_sparkle.*animation/);
  });

  it('go on without a buffer or an image that is missing, telling what is lost', async () => {
    const scene = await read(plain({ images: [{ uri: 'straw%20dark.png' }] }));
    expect(scene.references.map(({ kind, path, state }) => [kind, path, state])).to.deep.equal([
      ['image', 'straw dark.png', 'missing'],
      ['buffer', 'ribbon.bin', 'missing'],
    ]);
    expect(scene.notUnderstood[0].what).to.match(/mesh "0" left out/);
    expect(scene.nodes[0].mesh).to.equal(-1);
  });

  const bad: [string, Json, RegExp, Record<string, Uint8Array>?][] = [
    ['10⁹ vertices', { accessors: [{ bufferView: 0, componentType: 5126, count: 1e9, type: 'VEC3' }] }, /set\.gltf accessors\[0\]: claims 1,000,000,000 elements, more than the 72 bytes/],
    ['10⁹ vertices of nothing', { accessors: [{ componentType: 5126, count: 1e9, type: 'VEC3' }] }, /claims 1,000,000,000 elements without any data/],
    ['a buffer shorter than it claims', {}, /"ribbon\.bin" has 8 bytes, 72 are claimed/, { 'ribbon.bin': new Uint8Array(8) }],
    ['a view outside its buffer', { bufferViews: [{ buffer: 0, byteOffset: 40, byteLength: 72 }] }, /bufferViews\[0\]: ends after the 72 bytes/],
    ['a node below itself', { nodes: [{ children: [1] }, { children: [0] }] }, /nodes\[0\]: is below itself/],
    ['an extension it needs and nobody knows', { extensionsRequired: ['VENDOR_sparkle'] }, /needs "VENDOR_sparkle", which is not read here/],
    ['another version', { asset: { version: '1.0' } }, /asset\.version: is 1\.0; only glTF 2 is read/],
  ]; // prettier-ignore
  for (const [what, changes, message, more = withBuffer] of bad)
    it(`with ${what} are refused by place`, async () => {
      expect(await refusal(plain(changes), more))
        .to.match(/^RangeError/)
        .and.match(message);
    });

  it('that break off in their JSON, or in a chunk, are refused', async () => {
    expect(await refusal(encoder.encode('{"asset":') as unknown as Json)).to.match(/JSON breaks/);
    const glb = await writeGlb([{ name: 'a', mesh: { positions: corners, normals: null, uvs: null, indices: Uint32Array.from([0, 1, 2]) } }]); // prettier-ignore
    expect(await refusal(glb.slice(0, 100) as unknown as Json)).to.match(/is cut off/);
  });
});

describe('Polygons beside glTF triangles', () => {
  /** Two squares, an L and a triangle; each corner has UVs of its own. */
  const poly: PolyMesh = {
    points: Float32Array.from([0, 0, 0, 1, 0, 0, 2, 0, 0, 0, 1, 0, 1, 1, 0, 2, 1, 0, 1, 2, 0, 0, 2, 0, 3, 0, 0]),
    faceSizes: Uint32Array.from([4, 6, 3]),
    corners: Uint32Array.from([1, 2, 5, 4, 0, 1, 4, 6, 7, 3, 2, 8, 5]),
    normals: null,
    uvs: [{ name: 'st', values: Float32Array.from({ length: 26 }, (_, i) => i / 26), indices: Uint32Array.from({ length: 13 }, (_, i) => i) }], // prettier-ignore
    subdivision: 'catmull-clark',
    creases: { edges: Uint32Array.from([1, 4]), sharpness: Float32Array.from([3]) },
  };

  it('come back as they were: faces, points, UVs of corners, creases; and the validator has nothing to say', async () => {
    const mesh = trianglesOf(poly);
    const vertex = (point: number) => mesh.pointOf.indexOf(point);
    const polygons = {
      faces: runsOf(poly.faceSizes),
      subdivision: poly.subdivision,
      creases: [vertex(1), vertex(4), 3],
    };
    const bytes = await writeGlb([{ name: 'comb', mesh, polygons }]);
    const { issues } = await validateBytes(bytes);
    expect(issues.messages.filter(({ severity }) => severity < 2)).to.deep.equal([]);
    const file = await readGlb(bytes, 'comb.glb');
    const back = meshPolygons(file.mesh(0, 0), file.polygons(0, 0), 'comb.glb');
    const outline = ({ points, faceSizes, corners: c }: PolyMesh) => {
      let at = 0;
      return [...faceSizes].map((size) => {
        const ring = [...c.slice(at, (at += size))].map((p) => [...points.slice(p * 3, p * 3 + 3)].join(' '));
        const first = ring.indexOf([...ring].sort()[0]);
        return [...ring.slice(first), ...ring.slice(0, first)].join(' | ');
      });
    };
    expect(outline(back)).to.deep.equal(outline(poly));
    expect(back.subdivision).to.equal('catmull-clark');
    const ends = [...back.creases.edges].map((p) => [...back.points.slice(p * 3, p * 3 + 3)]);
    expect(ends).to.deep.equal([[1, 0, 0], [1, 1, 0]]); // prettier-ignore
    const uvAt = ({ uvs: [uv] }: PolyMesh) => [...uv.indices].map((i) => uv.values[i * 2].toFixed(5)).sort();
    expect(uvAt(back)).to.deep.equal(uvAt(poly));
  });
});
