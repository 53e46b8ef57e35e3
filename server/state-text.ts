/** A state as pages are sent it. */
export interface StateText {
  /** Tells it from others. */
  id: string;
  /** JSON. */
  text: string;
}
