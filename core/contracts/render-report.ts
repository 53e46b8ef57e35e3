/** What `dusting render --json` prints: one object. */
export interface RenderReport {
  /** The file written. */
  out: string;
  width: number;
  height: number;
  /** Per pixel; the mean, if sampling was adaptive. */
  samples: number;
  /** Wall time by phase. */
  seconds: { load: number; compile: number; render: number; write: number; total: number };
  /** Rays by what they were sent for, and all of them. */
  rays: Record<string, number>;
  peakMemoryBytes: number;
  /** Per light pass: mean over the pixels rendered, and the root mean square of the pixels' standard errors, per channel. */
  passes: Record<string, { mean: number[]; standardError: number[] }>;
  warnings: string[];
}
