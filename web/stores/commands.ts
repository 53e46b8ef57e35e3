/** What can be found and done by name: each part of the page says what it has, the palette shows it. */
import { defineStore } from 'pinia';
import { onScopeDispose, ref, shallowReactive } from 'vue';

export interface Command {
  /** Unique among all. */
  id: string;
  group: 'Go to' | 'Do' | 'Findings' | 'Passes' | 'Controls' | 'Shots';
  name: string;
  /** Beside the name: a key, a code, a value. */
  detail?: string;
  run(): void;
}

export const COMMAND_GROUPS: Command['group'][] = ['Do', 'Go to', 'Findings', 'Passes', 'Controls', 'Shots'];

export const useCommands = defineStore('commands', () => {
  const isOpen = ref(false);
  const sources = shallowReactive(new Set<() => Command[]>());

  /** Adds commands until the calling scope ends. @param source asked while the palette is open */
  function provide(source: () => Command[]): void {
    sources.add(source);
    onScopeDispose(() => sources.delete(source));
  }

  return { isOpen, sources, provide };
});

/** Commands that hold all words, those whose name begins with them first. */
export function matching(commands: Command[], text: string): Command[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const rank = ({ name }: Command) => (words.length && name.toLowerCase().startsWith(words[0]) ? 0 : 1);
  return commands
    .filter(({ name, detail = '', group }) => {
      const whole = `${name} ${detail} ${group}`.toLowerCase();
      return words.every((word) => whole.includes(word));
    })
    .sort((a, b) => rank(a) - rank(b));
}
