<script setup lang="ts">
/** Asks for the token, where the server wants one, and goes on to where one was. */
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import Message from 'primevue/message';

import { ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useSession } from '../stores/session.ts';

const session = useSession();
const route = useRoute();
const router = useRouter();
const token = ref('');
const refusal = ref<string | null>(null);
const isBusy = ref(false);

async function signIn(): Promise<void> {
  if (token.value === '' || isBusy.value) return;
  isBusy.value = true;
  refusal.value = null;
  try {
    await session.signIn(token.value);
    const { to } = route.query;
    // Only to a page of ours: an address may have been made up by somebody else.
    await router.replace(typeof to === 'string' && /^\/(?!\/)/.test(to) ? to : '/');
  } catch (error) {
    refusal.value = (error as Error).message;
  } finally {
    isBusy.value = false;
  }
}
</script>

<template>
  <main id="main" tabindex="-1" class="sign-in">
    <form @submit.prevent="signIn">
      <h1>Dusting</h1>
      <label for="token">Server token</label>
      <InputText id="token" v-model="token" type="password" autocomplete="current-password" autofocus fluid />
      <Message v-if="refusal" severity="error" :closable="false">{{ refusal }}</Message>
      <Button type="submit" label="Sign in" :loading="isBusy" :disabled="token === ''" />
      <p class="dim">The token is set by whoever runs this server (DUSTING_TOKEN). You stay signed in for a week.</p>
    </form>
  </main>
</template>

<style scoped>
.sign-in {
  height: 100%;
  display: grid;
  place-items: center;
}
form {
  width: 340px;
  display: grid;
  gap: 10px;
  padding: 24px;
  background: var(--panel);
  border: 1px solid var(--line);
}
h1 {
  font-size: 1.2rem;
}
</style>
