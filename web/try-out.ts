/** Values of the shot that a trial shows: it begins, and the page goes to it. */
import { ref } from 'vue';
import { useRouter } from 'vue-router';
import { useShot } from './stores/shot.ts';
import { useView } from './stores/view.ts';

export function useTryOut() {
  const router = useRouter();
  const shot = useShot();
  const view = useView();
  const busy = ref(false);

  /** @param title what the trial is called */
  async function see(title: string, values: Record<string, unknown>): Promise<void> {
    busy.value = true;
    const request = { finding: null, remedy: null, region: null, sheet: 'preview' as const, values };
    const trial = await shot.tryOut({ ...request, title: title.slice(0, 200) });
    busy.value = false;
    if (!trial) return;
    view.trialId = trial.id;
    void router.push({ name: 'shot', params: { code: shot.state!.code }, query: view.query });
  }
  return { see, busy };
}
