/**
 * KTX 2 textures of glTF scenes, held against the picture that another program packed into them, see `ktx2-files.ts`.
 * Source of bounds: none is published for one picture; UASTC spends 8 bits a texel on all channels, ETC1S a colour and four
 * intensities on each block of 4 × 4, so that only means of blocks are near.
 */
import { expect } from 'chai';
import { readPngTexture } from '../../core/formats/png.ts';
import { readScene } from '../../core/formats/scene-readers.ts';
import { filesInMemory } from '../../core/formats/scene-files.ts';
import { toShot } from '../../core/intake/to-shot.ts';
import { decoders } from '../../host/decoders.ts';
import { etc1s, SIZE, uastc, valueAt } from './ktx2-files.ts';

const [WIDTH, HEIGHT] = SIZE;
const BLOCK = 4;

const NAME = 'set.gltf';
const positions = new Uint8Array(Float32Array.from([0, 0, 0, 1, 0, 0, 0, 1, 0]).buffer);

/** A triangle whose colour is a texture with and without the extension. */
const sceneOf = (images: object[], extension = true) => ({
  asset: { version: '2.0' },
  scene: 0,
  scenes: [{ nodes: [0] }],
  nodes: [{ mesh: 0 }],
  meshes: [{ primitives: [{ attributes: { POSITION: 0 }, material: 0 }] }],
  materials: [{ pbrMetallicRoughness: { baseColorTexture: { index: 0 } } }],
  textures: [extension ? { source: images.length - 1, extensions: { KHR_texture_basisu: { source: 0 } } } : { source: 0 }], // prettier-ignore
  images,
  extensionsUsed: ['KHR_texture_basisu'],
  accessors: [{ bufferView: 0, componentType: 5126, count: 3, type: 'VEC3', min: [0, 0, 0], max: [1, 1, 0] }],
  bufferViews: [{ buffer: 0, byteLength: 36 }],
  buffers: [{ uri: 'set.bin', byteLength: 36 }],
});

const read = (json: object, files: Record<string, Uint8Array>, means = decoders) =>
  readScene(NAME, filesInMemory(new Map(Object.entries({ [NAME]: new TextEncoder().encode(JSON.stringify(json)), 'set.bin': positions, ...files }))), means); // prettier-ignore

/** Differences from the picture: of texels, root mean square, and the worst of blocks' means. */
function differences(png: Uint8Array, withAlpha: boolean) {
  const { width, height, texels, alpha } = readPngTexture(png, 'linear', 'texture');
  expect([width, height, alpha !== null]).to.deep.equal([WIDTH, HEIGHT, withAlpha]);
  const blocks = new Float64Array((WIDTH / BLOCK) * (HEIGHT / BLOCK) * 4);
  let squares = 0;
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++)
      valueAt(x, y, withAlpha).forEach((value, c) => {
        const own = c === 3 ? (alpha?.[y * WIDTH + x] ?? 1) : texels[(y * WIDTH + x) * 3 + c];
        const off = own * 255 - value;
        squares += off * off;
        blocks[(Math.floor(y / BLOCK) * (WIDTH / BLOCK) + Math.floor(x / BLOCK)) * 4 + c] += off / BLOCK ** 2;
      });
  return { texels: Math.sqrt(squares / (WIDTH * HEIGHT * 4)), blocks: Math.max(...blocks.map(Math.abs)) };
}

describe('KTX 2 textures', () => {
  it('come in as PNG that shows what was packed: UASTC texel by texel, with its alpha', async () => {
    const scene = await read(sceneOf([{ uri: 'tex/label.ktx2' }]), { 'tex/label.ktx2': uastc });
    const [image] = scene.images;
    expect(image.resolved).to.equal('tex/label.ktx2.png');
    expect(differences(image.bytes!, true).texels).to.be.below(3);
    expect(scene.notUnderstood).to.deep.equal([]);
    expect(scene.repaired.map(({ what }) => what)).to.deep.equal(['a KTX 2 texture unpacked to a PNG of 8 bits']);
    const { files, document } = await toShot(scene);
    const [texture] = Object.values(document.textures);
    expect(files.get(texture.file)).to.deep.equal(image.bytes);
  });

  it('come in from ETC1S, block by block, and without alpha where it has none', async () => {
    const scene = await read(sceneOf([{ uri: 'wood.ktx2' }]), { 'wood.ktx2': etc1s });
    expect(differences(scene.images[0].bytes!, false).blocks).to.be.below(16);
  });

  it('are taken before the PNG that others fall back to, and from a scene that has them inside', async () => {
    const inside = { uri: `data:image/ktx2;base64,${btoa(String.fromCharCode(...uastc))}`, mimeType: 'image/ktx2' };
    const scene = await read(sceneOf([inside, { uri: 'plain.png' }]), {});
    const [{ image }] = scene.materials[0].textures;
    expect(differences(scene.images[image].bytes!, true).texels).to.be.below(3);
  });

  it('that are broken stay as they are, and are told by name', async () => {
    const cut = uastc.slice(0, 300);
    const lying = uastc.slice();
    new DataView(lying.buffer).setUint32(20, 2 ** 30, true);
    for (const [bytes, why] of [[cut, /label\.ktx2: (holds no Basis|cannot be unpacked)/], [lying, /states 1073741824 × 28 pixels, which cannot be/]] as const) {
      const scene = await read(sceneOf([{ uri: 'label.ktx2' }]), { 'label.ktx2': bytes });
      expect(scene.images[0].bytes).to.equal(bytes);
      expect(scene.notUnderstood.map(({ what }) => what).join()).to.match(why);
    } // prettier-ignore
  });

  it('never crash or hang what unpacks them, whichever byte is bent', async () => {
    for (let at = 0; at < uastc.length; at += 7) {
      const bent = uastc.slice();
      bent[at] ^= 0x55;
      const scene = await read(sceneOf([{ uri: 'label.ktx2' }]), { 'label.ktx2': bent });
      expect(scene.images).to.have.length(1);
    }
    // It goes on to do its work.
    const scene = await read(sceneOf([{ uri: 'label.ktx2' }]), { 'label.ktx2': uastc });
    expect(differences(scene.images[0].bytes!, true).texels).to.be.below(3);
  });

  it('are an extension that is not understood where nothing unpacks them', async () => {
    const { notUnderstood } = await read(sceneOf([{ uri: 'label.ktx2' }]), { 'label.ktx2': uastc }, {});
    expect(notUnderstood.map(({ what }) => what)).to.include('extension "KHR_texture_basisu"');
  });
});
