import type { ChartMark, Evidence } from '../../contracts/finding.ts';
import type { FireflyCase } from './case.ts';
import { enoughOf, type ClampPoint } from './clamp-curve.ts';
import { tellClamp } from './remedies/clamp.ts';

/** What clamps leave and take, by stops below the brightest sample. */
export function curveOf({ curve, sheet, kind }: FireflyCase): Evidence {
  const [{ clamp: top }] = curve;
  const now = sheet.clamps[kind];
  const enough = enoughOf(curve).clamp;
  const below = (clamp: number) => Math.max(0, Number(Math.log2(top / clamp).toFixed(2)));
  const points = (of: (point: ClampPoint) => number) => curve.map((one): [number, number] => [below(one.clamp), 100 * of(one)]); // prettier-ignore
  const marks: ChartMark[] = now === null ? [] : [{ x: below(now), label: `now ${now}`, kind: 'now' }];
  return {
    kind: 'curve',
    title: 'What a clamp leaves and takes',
    x: { label: `below the brightest sample, ${tellClamp(top)}`, unit: 'stops' },
    y: { label: 'left', unit: '%', max: 100 },
    series: [
      { label: 'of the fireflies left', points: points(({ left }) => left) },
      { label: 'of the light taken', points: points(({ taken }) => taken) },
    ],
    marks: [...marks, { x: below(enough), label: tellClamp(enough), kind: 'enough' }],
  };
}
