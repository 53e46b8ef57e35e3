/** Typed arrays that grow, for what files tell without saying how much of it is to come. */
export class GrowingFloats {
  length = 0;
  private values = new Float32Array(1024);

  push(value: number): void {
    if (this.length === this.values.length) {
      const more = new Float32Array(this.length * 2);
      more.set(this.values);
      this.values = more;
    }
    this.values[this.length++] = value;
  }

  /** The values so far, without copying; not valid after the next push. */
  get view(): Float32Array {
    return this.values.subarray(0, this.length);
  }
}

export class GrowingWholes {
  length = 0;
  private values = new Int32Array(1024);

  push(value: number): void {
    if (this.length === this.values.length) {
      const more = new Int32Array(this.length * 2);
      more.set(this.values);
      this.values = more;
    }
    this.values[this.length++] = value;
  }

  get view(): Int32Array {
    return this.values.subarray(0, this.length);
  }
}
