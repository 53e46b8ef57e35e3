/** Puts a text on the clipboard and says so, or why not. */
import { useMessages } from './stores/messages.ts';

export async function copyText(text: string, told: string): Promise<void> {
  const messages = useMessages();
  try {
    await navigator.clipboard.writeText(text);
    messages.done(told);
  } catch {
    messages.failed('The browser did not allow copying.');
  }
}
