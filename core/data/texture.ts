/** An image used by a material: linear RGB floats, rows from the top. */
export interface Texture {
  width: number;
  height: number;
  /** 3 values a texel, already linear Rec.709. */
  texels: Float32Array;
}
