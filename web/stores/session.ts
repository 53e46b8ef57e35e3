/** Whether the server asks people to sign in, and whether this page is. */
import { defineStore } from 'pinia';
import { ref } from 'vue';
import { getJson, post, remove } from '../remote/client.ts';

export const useSession = defineStore('session', () => {
  const needed = ref(false);
  const signedIn = ref(true);

  async function look(): Promise<void> {
    const told = await getJson<{ needed: boolean; signedIn: boolean }>('/session');
    needed.value = told.needed;
    signedIn.value = told.signedIn;
  }

  /** @throws Refused when it is not the token */
  async function signIn(token: string): Promise<void> {
    await post('/session', { token });
    signedIn.value = true;
  }

  async function signOut(): Promise<void> {
    await remove('/session');
    signedIn.value = false;
  }

  return { needed, signedIn, look, signIn, signOut };
});
