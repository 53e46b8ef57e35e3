/** What shows keep as JSON: what they expect, renderers, formats of logs; and which of them the open shot goes by. */
import { defineStore } from 'pinia';
import { computed, shallowRef } from 'vue';
import type { ProfileChoice } from '../../core/contracts/requests.ts';
import type { ProfileKind, ProfileTold } from '../../core/contracts/intake.ts';
import { getJson, post, remove } from '../remote/client.ts';
import { useIntake } from './intake.ts';
import { useMessages } from './messages.ts';
import { useShot } from './shot.ts';

export const useProfiles = defineStore('profiles', () => {
  const shot = useShot();
  const intake = useIntake();
  const all = shallowRef<ProfileTold[]>([]);

  async function attempt(work: Promise<unknown>): Promise<boolean> {
    try {
      await work;
      all.value = await getJson<ProfileTold[]>('/profiles');
      return true;
    } catch (error) {
      useMessages().refused(error);
      return false;
    }
  }
  void attempt(Promise.resolve());

  const chosen = computed<ProfileChoice>(() => ({
    show: intake.intake?.show ?? null,
    target: intake.intake?.target ?? null,
  }));
  async function choose(choice: Partial<ProfileChoice>): Promise<void> {
    const path = `/shots/${shot.state!.code}/profiles`;
    if (await attempt(post(path, { ...chosen.value, ...choice }))) await intake.read();
  }

  return {
    all,
    chosen,
    choose,
    of: (kind: ProfileKind) => all.value.filter((one) => one.kind === kind),
    save: (kind: ProfileKind, text: string) => attempt(post(`/profiles/${kind}`, { text }, 'PUT')),
    drop: ({ kind, name }: ProfileTold) => attempt(remove(`/profiles/${kind}/${encodeURIComponent(name)}`)),
  };
});
