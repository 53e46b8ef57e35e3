import { maskWhere, type HealthCheck } from '../check.ts';

const SLACK = 1.001;

export const definition: HealthCheck = {
  id: 'alpha-range',
  find({ of, layers }) {
    return layers.flatMap(({ role, channels }) => {
      const alpha = role === 'beauty' ? channels.find((name) => /(^|\.)(a|alpha)$/i.test(name)) : undefined;
      const health = alpha && of.get(alpha);
      if (!health || (health.min >= 0 && health.max <= SLACK)) return [];
      const sentence = `${alpha} runs from ${health.min.toPrecision(3)} to ${health.max.toPrecision(3)}; coverage is from 0 to 1.`;
      return [{ severity: 'caution' as const, sentence, channels: [alpha] }];
    });
  },
  mask: (picture, { channels }) => maskWhere(picture, channels, (v) => v < 0 || v > SLACK),
};
