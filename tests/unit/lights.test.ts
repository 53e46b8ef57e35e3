/** Rectangle lights: their table, their surface, and which side they shine from. */
import { expect } from 'chai';
import { lookAt, multiply, rotationY, scaling, translation } from '../../core/data/transform.ts';
import type { RectangleLightSpec } from '../../core/document/schema.ts';
import {
  LIGHT_AREA,
  LIGHT_CORNER,
  LIGHT_NORMAL,
  LIGHT_STRIDE,
  LIGHT_U,
  LIGHT_V,
  lightMesh,
  writeLight,
} from '../../core/lights/rectangle.ts';
import { meanOf, render, scene, square } from './helpers.ts';

const light = (transform: number[], width = 2, height = 1): RectangleLightSpec => ({
  kind: 'rectangle',
  name: '',
  transform,
  width,
  height,
  radiance: [1, 2, 3],
});

function table(spec: RectangleLightSpec): Float64Array {
  const out = new Float64Array(LIGHT_STRIDE);
  writeLight(out, 0, spec);
  return out;
}

describe('rectangle lights', () => {
  it('stand around their place with their width along X and height along Y', () => {
    const t = table(light(translation(5, 6, 7)));
    expect([...t.subarray(LIGHT_CORNER, LIGHT_CORNER + 3)]).to.deep.equal([4, 5.5, 7]);
    expect([...t.subarray(LIGHT_U, LIGHT_U + 3)]).to.deep.equal([2, 0, 0]);
    expect([...t.subarray(LIGHT_V, LIGHT_V + 3)]).to.deep.equal([0, 1, 0]);
    expect(t[LIGHT_AREA]).to.equal(2);
  });

  it('shine along local −Z, turned and mirrored ones too (Conventions)', () => {
    const normal = (m: number[]) =>
      [...table(light(m)).subarray(LIGHT_NORMAL, LIGHT_NORMAL + 3)].map((v) => Math.round(v * 1e9) / 1e9 + 0);
    expect(normal(translation(0, 0, 0))).to.deep.equal([0, 0, -1]);
    expect(normal(rotationY(90))).to.deep.equal([-1, 0, 0]);
    expect(normal(scaling(-1, 1, 1))).to.deep.equal([0, 0, -1]);
    expect(normal(lookAt([0, 3, 0.001], [0, 0, 0]))[1]).to.be.closeTo(-1, 1e-3);
  });

  it('grow with their transform', () => {
    expect(table(light(multiply(rotationY(30), scaling(3, 2, 1))))[LIGHT_AREA]).to.be.closeTo(12, 1e-9);
  });

  it('have a surface of two triangles of the same size', () => {
    const { positions: p, indices } = lightMesh(light(translation(0, 0, 0)));
    expect(indices.length).to.equal(6);
    expect(Math.max(...p.filter((_, i) => i % 3 === 0))).to.equal(1);
    expect(Math.max(...p.filter((_, i) => i % 3 === 1))).to.equal(0.5);
  });

  it('are seen from the front as bright as their radiance, and are black from behind', () => {
    const seen = (from: number) => {
      const test = scene([{ mesh: square(0.001, 50) }], { lights: { window: light(translation(0, 0, 0), 9, 9) } });
      test.document.cameras.main.transform = lookAt([0, 0, from], [0, 0, 0]);
      return meanOf(render(test, { x: 7, y: 7, width: 2, height: 2 }, 8), 'emission').mean;
    };
    expect(seen(-5)).to.be.closeTo(0.2126 + 2 * 0.7152 + 3 * 0.0722, 1e-5);
    expect(seen(5)).to.equal(0);
  });
});
