/** What a view transform is: one file each, one line in `registry.ts`. */
export interface ViewTransform {
  name: string;
  /** The published formula it follows. */
  source: string;
  /** Display value of a linear one of 0 or more; what comes to more than 1 is clipped by whoever shows it. */
  display(linear: number): number;
}
