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

/** Commands that hold all words, by kind; the kind whose name comes nearest to the text is first, and in it that name. */
export function matching(commands: Command[], text: string): Command[] {
  const whole = text.trim().toLowerCase();
  const words = whole.split(/\s+/).filter(Boolean);
  const rank = ({ name }: Command): number => {
    const lower = name.toLowerCase();
    if (!whole || lower === whole) return 0;
    if (lower.startsWith(whole)) return 1;
    return lower.startsWith(words[0]) ? 2 : 3;
  };
  const found = commands
    .filter(({ name, detail = '', group }) =>
      words.every((word) => `${name} ${detail} ${group}`.toLowerCase().includes(word)),
    )
    .sort((a, b) => rank(a) - rank(b));
  const bestOf = (group: Command['group']) => Math.min(...found.filter((one) => one.group === group).map(rank));
  const groups = COMMAND_GROUPS.filter((group) => found.some((one) => one.group === group));
  return groups.sort((a, b) => bestOf(a) - bestOf(b)).flatMap((name) => found.filter(({ group }) => group === name));
}
