/** What a command writes to its output. */
export async function captured(command: () => Promise<unknown>): Promise<string> {
  const { log } = console;
  const lines: string[] = [];
  console.log = (text: string) => lines.push(text);
  try {
    await command();
  } finally {
    console.log = log;
  }
  return lines.join('\n');
}
