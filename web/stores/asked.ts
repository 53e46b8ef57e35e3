/** A question that is asked again whenever it or what its answer depends on changes; null asks nothing. */
import { ref, shallowRef, watch } from 'vue';
import type { Question } from '../place/ask-messages.ts';
import { useShot } from './shot.ts';
import { useAsker, type Answer } from './asker.ts';

export function useAsked<Q extends Question>(question: () => Q | null) {
  const shot = useShot();
  const asker = useAsker();
  const asked = shallowRef<Answer<Q> | null>(null);
  const problem = ref('');
  const isAsking = ref(false);
  let turn = 0;

  async function ask(): Promise<void> {
    const mine = ++turn;
    const wanted = shot.state && question();
    isAsking.value = wanted !== null;
    problem.value = '';
    if (!wanted) {
      asked.value = null;
      return;
    }
    try {
      const answer = await asker.ask(wanted);
      if (mine !== turn || !answer) return;
      asked.value = answer;
    } catch (error) {
      if (mine !== turn) return;
      asked.value = null;
      problem.value = (error as Error).message;
    }
    isAsking.value = false;
  }

  watch(() => JSON.stringify([question(), asker.state()]), () => void ask(), { immediate: true }); // prettier-ignore
  watch(
    () => shot.state?.code,
    () => (asked.value = null),
    { flush: 'sync' },
  );
  return { asked, problem, isAsking };
}
