/** Where the light of the picture that is looked at is, and where its noise: shares by layer. */
import { defineStore } from 'pinia';
import { computed, ref, watch } from 'vue';
import type { PassFigures } from '../../core/picture/pass-figures.ts';
import { percent } from '../format.ts';
import { getJson } from '../remote/client.ts';
import { useLook } from './look.ts';

export interface LayerShares {
  light: number;
  /** Null where it is not told apart. */
  noise: number | null;
}

export const useLayerShares = defineStore('layer-shares', () => {
  const look = useLook();
  /** Of a render of ours; pictures have theirs from when they came in. */
  const figures = ref<PassFigures | null>(null);
  watch(
    () => look.shown?.render && `${look.shown.render.id} ${look.shown.render.state}`,
    async () => {
      figures.value = null;
      const id = look.shown?.render?.id;
      if (id === undefined) return;
      const read = await getJson<PassFigures>(`/renders/${id}/figures`).catch(() => null);
      if (look.shown?.render?.id === id) figures.value = read;
    },
    { immediate: true },
  );

  const shares = computed<Record<string, LayerShares>>(() => {
    if (figures.value) {
      const told = Object.entries(figures.value.light);
      return Object.fromEntries(told.map(([name, { light, grain }]) => [name, { light, noise: grain }]));
    }
    const facts = look.shown?.picture?.facts.layers ?? [];
    const beauty = facts.find(({ role }) => role === 'beauty');
    const noise = facts.filter(({ role }) => role === 'light').reduce((sum, one) => sum + (one.noise ?? 0), 0);
    const lit = facts.filter(({ role }) => role === 'light' || role === 'light group');
    return Object.fromEntries(
      lit.map((one) => [
        one.name,
        {
          light: beauty?.mean ? Math.max(0, one.mean / beauty.mean) : 0,
          noise: noise > 0 && one.role === 'light' ? (one.noise ?? 0) / noise : null,
        },
      ]),
    );
  });

  function tell(name: string): string {
    const own = shares.value[name];
    if (!own) return '';
    return `${percent(own.light)} of the light${own.noise === null ? '' : `, ${percent(own.noise)} of the noise`}`;
  }

  /** For labels: as short as it goes. */
  function tellShort(name: string): string {
    const own = shares.value[name];
    return own ? `light ${percent(own.light)}${own.noise === null ? '' : `, noise ${percent(own.noise)}`}` : '';
  }

  return { shares, tell, tellShort };
});
