/** The live look: the region as it would be with the values that are set, rendered in this browser. */
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import type { Region } from '../../core/data/picture.ts';
import { number } from '../format.ts';
import { canLookLive, LiveLook, type LiveSeen } from '../live/live-look.ts';
import { getJson } from '../remote/client.ts';
import { useCurrent } from './current.ts';
import { usePending } from './pending.ts';
import { useShot } from './shot.ts';
import { useView } from './view.ts';

export const useLive = defineStore('live', () => {
  const shot = useShot();
  const view = useView();
  const current = useCurrent();
  const pending = usePending();

  const isOn = ref(false);
  const seen = shallowRef<LiveSeen | null>(null);
  const problem = ref('');
  /** The picture that is up is of the values before. */
  const isBefore = ref(false);
  let look: LiveLook | null = null;
  let versionId: number | null = null;

  /** Of the preview's frame; all of it where no region is drawn. */
  const region = computed<Region | null>(() => {
    const sheet = shot.state?.document.sheets.preview;
    const { render } = current;
    if (!sheet || !render || render.width !== sheet.width || render.height !== sheet.height) return null;
    return current.region ?? { x: 0, y: 0, width: sheet.width, height: sheet.height };
  });
  /** Why it cannot be switched on. */
  const obstacle = computed(() => {
    if (!canLookLive()) return 'This page is not isolated, so its workers cannot share memory.';
    return region.value ? '' : 'The live look uses the preview sheet: show a preview render.';
  });

  async function begin(): Promise<void> {
    const head = shot.state!.head.id;
    const { document } = shot.state!;
    problem.value = '';
    isBefore.value = true;
    try {
      if (versionId !== head) {
        const manifest = await getJson<Record<string, string>>(`/versions/${head}/manifest`);
        if (!isOn.value || shot.state?.head.id !== head) return;
        look ??= new LiveLook(
          (now) => {
            seen.value = now;
            isBefore.value = false;
            problem.value = '';
          },
          (told) => (problem.value = told),
        );
        look.version({ document, manifest });
        versionId = head;
      }
      if (!region.value) return;
      const { exposure, gamma } = view;
      look!.look({ region: { ...region.value }, values: pending.ofPreview, view: { exposure, gamma } });
    } catch (error) {
      problem.value = (error as Error).message;
    }
  }

  function end(): void {
    look?.end();
    look = null;
    versionId = null;
    seen.value = null;
    problem.value = '';
    isOn.value = false;
  }

  watch(
    () => [isOn.value, shot.state?.head.id, JSON.stringify(region.value), JSON.stringify(pending.ofPreview)] as const,
    ([on, head]) => {
      if (!on) return;
      if (head === undefined) end();
      else void begin();
    },
  );
  watch(
    () => [view.exposure, view.gamma],
    ([exposure, gamma]) => look?.see({ exposure, gamma }),
  );

  const told = computed(() => {
    if (problem.value) return problem.value;
    if (!seen.value) return 'live: reading the scene …';
    if (isBefore.value) return 'live: updating …';
    const { samples, target, grain, since, isDone } = seen.value;
    return [
      'live',
      isDone ? `${number(samples)} samples` : `${number(samples)} of ${target} samples`,
      grain === null ? '' : `noise ${number(grain, 1)}`,
      `${number(since / 1000, 1)} s`,
    ]
      .filter(Boolean)
      .join(' · ');
  });

  return { isOn, seen, region, obstacle, told, problem, end };
});
