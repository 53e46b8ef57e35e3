/** What this browser remembers of how its user likes the page. */
import { useLocalStorage } from '@vueuse/core';
import { defineStore } from 'pinia';
import { watchEffect } from 'vue';

export const usePreferences = defineStore('preferences', () => {
  const isRoomy = useLocalStorage('dusting.roomy', false);
  watchEffect(() => document.documentElement.classList.toggle('roomy', isRoomy.value));

  /** Whether the system tells when long work ends while the page is not looked at. */
  const notifies = useLocalStorage('dusting.notifies', false);
  /** The browser asks the first time; where it refuses, title and icon tell it alone. */
  async function setNotifies(wanted: boolean): Promise<void> {
    notifies.value = wanted && 'Notification' in window && (await Notification.requestPermission()) === 'granted';
  }

  /** The first-use path stays closed once it was closed. */
  const isGuideClosed = useLocalStorage('dusting.guide.closed', false);

  return { isRoomy, notifies, setNotifies, isGuideClosed };
});
