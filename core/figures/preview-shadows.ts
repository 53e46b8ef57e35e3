/** Where a real-time preview shows other shadows than there are, of what its key light lights: see `shadow-map/preview-error.ts`. */
import type { Figure } from './figure.ts';

export const previewShadows: Figure = {
  id: 'preview-shadows',
  label: 'Wrong preview shadows',
  short: 'preview shadows wrong',
  unit: 'share',
  better: 'less',
  change: 'difference',
  seen: 0.003,
  needs: () => null,
  measure: ({ ofScene }) => ofScene['preview-shadows'] ?? null,
};
